/** What is done once somebody is known to be here: who it is, what they had learned, what waited to be sent. */
import { watch } from 'vue'

import { useLearning } from '@/hands/learning'
import { useNotices } from '@/page/notices'
import { useOutbox } from '@/work/outbox'
import { useSession } from '@/work/session'

export function useStartingUp() {
  const session = useSession()
  const notices = useNotices()
  const outbox = useOutbox()
  const learning = useLearning()

  async function readSession() {
    try {
      await session.read()
    } catch (reason) {
      notices.complain(reason, { label: 'Try again', act: readSession })
    }
  }
  void readSession()

  // What controllers move is there from the first knob on.
  watch(
    () => session.user,
    (user) => (user ? void learning.read() : learning.forget()),
  )
  // What waited when the page was left, or for somebody to sign in again, is sent now.
  watch(
    () => [session.user, session.isExpired] as const,
    ([user, isExpired]) => user && !isExpired && void outbox.begin(user),
  )
  watch(
    () => session.isTakenBack,
    (isBack) => isBack && notices.say('Your account is back, with all that is yours.'),
  )
}

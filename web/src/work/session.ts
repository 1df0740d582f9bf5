import { defineStore } from 'pinia'
import { ref } from 'vue'

import { answer, api, onSignedOut, type Schemas } from '@/api/client'
import { isAway } from '@/api/policy'
import { forgetLast, keepLast, lastOf } from './last'

/** Who is signed in. `user` is undefined until the server has said. */
export const useSession = defineStore('session', () => {
  const user = ref<string | null>()
  const hasDemo = ref(false)
  /** Whether the session ended while somebody was at work: what they do waits until they have signed in again. */
  const isExpired = ref(false)
  /** Whether signing in has just taken back that the account was deleted. */
  const isTakenBack = ref(false)
  onSignedOut(() => (isExpired.value = Boolean(user.value)))

  function take(session: Schemas['Session']) {
    user.value = session.user
    isExpired.value = false
    hasDemo.value = session.demo
    isTakenBack.value = session.taken_back
  }
  /** Who the server says is signed in; where it is away, who was last. */
  async function read() {
    try {
      await takeAndKeep(await answer(api.GET('/api/session')))
    } catch (reason) {
      const last = isAway(reason) ? await lastOf<Schemas['Session']>('session') : undefined
      if (!last?.user) throw reason
      take(last)
    }
  }
  /** Where it is somebody else than was here last, nothing of theirs is left. */
  async function takeAndKeep(session: Schemas['Session']) {
    take(session)
    const last = await lastOf<Schemas['Session']>('session')
    if (last && last.user !== session.user) await forgetLast()
    await keepLast('session', session)
  }
  const signIn = async (name: string, password: string) =>
    takeAndKeep(await answer(api.POST('/api/session', { body: { name, password } })))
  const tryDemo = async () => takeAndKeep(await answer(api.POST('/api/session/demo')))
  async function signOut() {
    take(await answer(api.DELETE('/api/session')))
    await forgetLast()
  }

  return { user, hasDemo, isExpired, isTakenBack, read, signIn, tryDemo, signOut }
})

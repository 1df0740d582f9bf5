/** What the engine refuses is taken back to where it agreed last. */
import { watch, type Ref } from 'vue'

import { ApiError } from '@/api/client'
import type { useRendering } from '@/engine/useRendering'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

type Rendered = ReturnType<typeof useRendering>

/** `error`: the newest refusal; `accepted`: the last question that was answered. */
export function useAgreement(
  error: Readonly<Ref<Rendered['error']['value']>>,
  accepted: Readonly<Ref<Rendered['accepted']['value']>>,
) {
  const piece = usePiece()
  const notices = useNotices()
  /** At which moment of the history each score stood; and the one at which the engine agreed last. */
  const stands = new WeakMap<object, number>()
  let agreedAt = 0

  watch(error, (refused) => {
    if (!refused) return
    notices.complain(refused.reason)
    const { reason, asked } = refused
    if (!(reason instanceof ApiError) || reason.status !== 422 || asked.score === accepted.value?.score)
      return
    // What was done since is taken back, as if it had never been; nothing of it is saved.
    const { standsAt } = piece.history
    for (let undo = Math.max(1, standsAt - agreedAt); undo > 0; undo--) piece.takeBackLast()
  })
  watch(
    () => piece.score,
    (score) => score && stands.set(score, piece.history.standsAt),
    { immediate: true, flush: 'sync' },
  )
  watch(accepted, (question) => {
    agreedAt = (question && stands.get(question.score)) ?? agreedAt
  })
}

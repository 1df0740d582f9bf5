/** What the engine refuses is taken back to where it agreed last, on whatever screen, and whether it was drawn or heard. */
import { defineStore } from 'pinia'
import { watch } from 'vue'

import { ApiError, type Piece, type Score } from '@/api/client'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { useLive } from '@/work/live'
import { useAudition } from '@/work/audition'

/** Where a score of the open piece came from. */
interface Origin {
  readonly pieceId: number | null
  readonly document: Piece | null
  readonly patternId: string | undefined
  readonly moment: number
}

export const useAgreement = defineStore('agreement', () => {
  const piece = usePiece()
  const live = useLive()
  const audition = useAudition()
  const notices = useNotices()
  const origins = new WeakMap<Score, Origin>()
  let agreed: Origin | null = null
  watch(
    () => [piece.score, piece.stillScore] as const,
    (scores) => {
      const { id, document, pattern, history } = piece
      const origin = { pieceId: id, document, patternId: pattern?.id, moment: history.standsAt }
      for (const score of scores) if (score) origins.set(score, origin)
    },
    { immediate: true, flush: 'sync' },
  )

  function answered(score: Score) {
    agreed = origins.get(score) ?? agreed
  }
  /** Take back what made a score that is refused, as if it had never been; a score that is no longer there is passed over. */
  function refused(score: Score, reason: unknown) {
    const isNow = score === piece.score || score === piece.stillScore
    if (!isNow || !(reason instanceof ApiError) || reason.status !== 422) return
    notices.complain(reason)
    if (audition.isOn) return audition.end()
    const before = agreed?.pieceId === piece.id ? agreed : null
    if (before?.document === piece.document) {
      // The document is the one that it agreed to: another pattern was chosen, or hands hold something.
      if (before?.patternId && before.patternId !== piece.pattern?.id) piece.choosePattern(before.patternId)
      live.letGoOfAll()
      return
    }
    const moments = piece.history.standsAt - (before?.moment ?? piece.opened?.number ?? 0)
    for (let left = Math.max(1, moments); left > 0; left--) piece.takeBackLast()
  }
  return { answered, refused }
})

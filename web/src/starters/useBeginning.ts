/** Beginning from a starter: heard and seen in place, taken, or let go. */
import { onScopeDispose, shallowRef } from 'vue'

import type { Lane, Pattern, Piece } from '@/api/client'
import { library, type ListedStarter } from '@/api/library'
import { useNotices } from '@/page/notices'
import { usePlaying } from '@/playing/playing'
import { usePiece } from '@/work/piece'

/** Whether it begins one lane. */
export const isOfALane = ({ kind }: ListedStarter) => kind === 'lane' || kind === 'melody'

/** `laneFor`: the lane that would begin anew; null for a new one. */
export function useBeginning(laneFor: (starter: ListedStarter) => Lane | null) {
  const piece = usePiece()
  const playing = usePlaying()
  const notices = useNotices()
  const heard = shallowRef<ListedStarter | null>(null)
  /** Whether it plays for the sake of what is heard: then it ends with it. */
  let playsForIt = false

  /** The pattern, or a whole piece, as it would begin from a starter; null where that begins no such thing. */
  const begunOf = async (one: ListedStarter, lane: Lane | null): Promise<Pattern | null> => {
    const { document, pattern } = piece
    if (one.kind === 'piece' || !document || !pattern) return null
    const scale = pattern.scale ?? document.scale
    return library.begin({ starter: one.starter, pattern, kit: document.kit, lane: lane?.id ?? null, scale })
  }
  const wholeOf = async ({ kind, starter }: ListedStarter): Promise<Piece | null> =>
    kind === 'piece' && piece.document ? library.beginPiece({ starter, piece: piece.document }) : null

  async function hear(one: ListedStarter) {
    heard.value = one
    try {
      piece.audition(null)
      const [whole, begun] = [await wholeOf(one), await begunOf(one, laneFor(one))]
      if (heard.value !== one) return
      if (whole) piece.auditionPiece(whole)
      else if (begun) piece.audition(() => begun)
      if (playing.isPlaying) return
      playsForIt = true
      await playing.play()
      if (!heard.value) endPlaying() // it was let go meanwhile
    } catch (reason) {
      notices.complain(reason)
    }
  }
  function endPlaying() {
    if (!playsForIt || !playing.isPlaying) return
    playsForIt = false
    playing.stop()
  }
  function letGo() {
    if (!heard.value) return
    heard.value = null
    piece.audition(null)
    endPlaying()
  }
  /** Begin from it, in place of the lane that would begin, or of `lane`. Whether it has begun. */
  async function take(
    one: ListedStarter,
    lane: Lane | null = isOfALane(one) ? laneFor(one) : null,
  ): Promise<boolean> {
    const isHeard = heard.value === one
    playsForIt = false
    letGo()
    const { document, pattern } = piece
    try {
      const [whole, begun] = [await wholeOf(one), await begunOf(one, lane)]
      if (piece.document !== document || piece.pattern !== pattern) return take(one, lane) // a hand was quicker: nothing of it is lost
      const { name } = one.starter
      if (whole) piece.edit(`Begins from ${name}`, () => whole)
      else if (begun) piece.editPattern(`${whose(one, lane)}: begins from ${name}`, () => begun)
      else return false
    } catch (reason) {
      notices.complain(reason)
      return false
    }
    if (isHeard && !playing.isPlaying) void playing.play()
    return true
  }
  const whose = (one: ListedStarter, lane: Lane | null) =>
    isOfALane(one) ? (lane?.name ?? 'New lane') : `Pattern ${piece.pattern?.name}`
  onScopeDispose(letGo)
  return { heard, hear, letGo, take }
}

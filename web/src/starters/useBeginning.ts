/** Beginning from a starter: heard and seen in place, taken, or let go. */
import { onScopeDispose, shallowRef } from 'vue'

import type { Lane, Piece } from '@/api/client'
import { library, type ListedStarter } from '@/api/library'
import { useNotices } from '@/page/notices'
import { usePlaying } from '@/playing/playing'
import { useAudition } from '@/work/audition'
import { withPattern } from '@/work/document'
import { usePiece } from '@/work/piece'

/** Whether it begins one lane. */
export const isOfALane = ({ kind }: ListedStarter) => kind === 'lane' || kind === 'melody'

/** `laneFor`: the lane that would begin anew; null for a new one. */
export function useBeginning(laneFor: (starter: ListedStarter) => Lane | null) {
  const piece = usePiece()
  const audition = useAudition()
  const playing = usePlaying()
  const notices = useNotices()
  const heard = shallowRef<ListedStarter | null>(null)
  /** Whether it plays for the sake of what is heard: then it ends with it. */
  let playsForIt = false
  /** What the document becomes by what is heard: it is not asked again. */
  let known: { one: ListedStarter; document: Piece; after: Piece } | null = null

  /** A piece as it would be after its pattern of that id, or all of it, has begun from a starter; null: nothing begins. */
  async function begun(
    { kind, starter }: ListedStarter,
    document: Piece,
    patternId: string | undefined,
    lane: Lane | null,
  ): Promise<Piece | null> {
    if (kind === 'piece') return library.beginPiece({ starter, piece: document })
    const pattern = document.patterns.find(({ id }) => id === patternId)
    if (!pattern) return null
    const scale = pattern.scale ?? document.scale
    const after = await library.begin({ starter, pattern, kit: document.kit, lane: lane?.id ?? null, scale })
    return withPattern(document, pattern.id, () => after)
  }

  async function hear(one: ListedStarter) {
    heard.value = one
    await notices.attempt(async () => {
      const { document, pattern } = piece
      const after = document && (await begun(one, document, pattern?.id, laneFor(one)))
      if (heard.value !== one) return
      known = after && { one, document, after }
      const heardPattern = after?.patterns.find(({ id }) => id === pattern?.id)
      if (after && one.kind === 'piece') audition.startPiece(after)
      else if (heardPattern) audition.start(() => heardPattern)
      if (playing.isPlaying) return
      playsForIt = true
      await playing.play()
      if (!heard.value) endPlaying() // it was let go meanwhile
    })
  }
  function endPlaying() {
    if (!playsForIt || !playing.isPlaying) return
    playsForIt = false
    playing.stop()
  }
  function letGo() {
    if (!heard.value) return
    heard.value = null
    audition.end()
    endPlaying()
  }
  /** Begin from it, in place of the lane that would begin, or of `lane`. Whether it has begun. */
  async function take(
    one: ListedStarter,
    lane: Lane | null = isOfALane(one) ? laneFor(one) : null,
  ): Promise<boolean> {
    const isHeard = heard.value === one
    const laneHeard = isHeard && isOfALane(one) ? laneFor(one) : lane
    playsForIt = false
    if (!isHeard) letGo()
    heard.value = null // what is heard goes on until it is so
    const here = piece.pattern?.id
    const begins = `begins from ${one.starter.name}`
    const label = one.kind === 'piece' ? `Begins from ${one.starter.name}` : `${whose(one, lane)}: ${begins}`
    try {
      const ask = async (document: Piece) =>
        isHeard && known?.one === one && known.document === document && lane === laneHeard
          ? known.after
          : begun(one, document, here, lane)
      if (!(await piece.editAsAnswered(label, ask))) return false
    } catch (reason) {
      audition.end()
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

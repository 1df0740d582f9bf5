import { watchDebounced } from '@vueuse/core'
import { shallowReadonly, shallowRef } from 'vue'

import type { Measures } from '@/api/client'
import { engine } from '@/engine/engine'
import { useNewest } from '@/page/asking'
import { scoreOf } from '@/work/document'
import { usePiece } from '@/work/piece'

/** Milliseconds that a hand has to rest before a lane is measured. */
const REST_MS = 250

/** The measures of a lane, and how far it is from where it was when the piece was opened. Late answers are dropped. */
export function useMeasures(laneId: () => string | null) {
  const piece = usePiece()
  const newest = useNewest()
  const measures = shallowRef<Measures | null>(null)

  /** The pattern as it was opened; if it is newer than that, one without lanes. */
  function since() {
    const opened = piece.opened?.document
    const then = opened?.patterns.find(({ id }) => id === piece.pattern?.id)
    if (opened && then) return { score: scoreOf(opened, then), dice: then.dice }
    return piece.score && { score: { ...piece.score, lanes: [] }, dice: piece.dice }
  }

  watchDebounced(
    () => [laneId(), piece.score, piece.dice] as const,
    async ([id]) => {
      const then = since()
      const isHere = piece.lanes.some((lane) => lane.id === id) // another pattern may be on the table by now
      if (!id || !then || !isHere) return newest.cancel()
      try {
        const answer = await newest.ask(() => engine.measures(id, then.score, then.dice))
        if (answer) measures.value = answer
      } catch {
        measures.value = null // measured at the next change; the lattice says what is wrong
      }
    },
    { debounce: REST_MS, immediate: true },
  )
  return shallowReadonly(measures)
}

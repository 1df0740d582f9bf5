import { watchDebounced } from '@vueuse/core'
import { shallowReadonly, shallowRef } from 'vue'

import type { Measures } from '@/api/client'
import { engine } from '@/engine/engine'
import { scoreOf } from '@/work/document'
import { usePiece } from '@/work/piece'

/** Milliseconds that a hand has to rest before a lane is measured. */
const REST_MS = 250

/** The measures of a lane, and how far it is from where it was when the piece was opened. Late answers are dropped. */
export function useMeasures(laneId: () => string | null) {
  const piece = usePiece()
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
    async ([id], _before, onCleanup) => {
      let isCurrent = true
      onCleanup(() => (isCurrent = false))
      const then = since()
      if (!id || !then) return
      // What cannot be measured now is measured at the next change; the lattice says what is wrong.
      const told = await engine.measures(id, then.score, then.dice).catch(() => null)
      if (isCurrent) measures.value = told
    },
    { debounce: REST_MS, immediate: true },
  )
  return shallowReadonly(measures)
}

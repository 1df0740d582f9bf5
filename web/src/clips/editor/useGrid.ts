/** The grid that hands keep to, remembered from clip to clip. How long its step is, the engine says. */
import { useLocalStorage } from '@vueuse/core'
import { ref, watch } from 'vue'

import { clipsApi } from '@/api/clips'
import type { Schemas } from '@/api/client'

const SIXTEENTH = { note: 16, kind: 'plain', multiplier: 1, divisor: 1 } as const

export function useGrid() {
  const step = useLocalStorage<Required<Schemas['StepValue']>>('jolly-lattice-grid', { ...SIXTEENTH })
  const snaps = ref(true)
  /** Length of a step in ticks; 0 until it is known. */
  const stepTicks = ref(0)
  watch(
    step,
    async (wanted, _before, onCleanup) => {
      let isOld = false
      onCleanup(() => (isOld = true))
      const gridStep = await clipsApi.gridStep(wanted).catch(() => null) // a value that is none: the grid stays
      if (gridStep && !isOld) stepTicks.value = gridStep.ticks
    },
    { immediate: true, deep: true },
  )
  return { step, snaps, stepTicks }
}

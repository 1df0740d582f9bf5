/** What hands have set for the next throws and contours, and what they have copied: of the page, of no piece. */
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import type { StripPicture } from '@/api/client'
import type { Shape } from './strips'

export interface ThrowRange {
  readonly low: number
  readonly high: number
  readonly shape: Shape
}

export const useHandSettings = defineStore('hand settings', () => {
  /** How far a throw moves: the share of a lane's hits, in percent. */
  const throwPercent = useLocalStorage('jolly-lattice-throw-percent', 30)
  /** What the next contour is drawn between. */
  const contourRange = ref({ low: 0, high: 7, leap: 3 })
  /** The strip that was copied last: its values as they were; null where a step was plain. */
  const copiedStrip = shallowRef<readonly (number | null)[] | null>(null)
  const ranges = ref<Record<string, ThrowRange>>({})

  /** Between which values a strip is thrown: as a hand last set it, else as the engine says. */
  const throwRangeOf = ({ name, throw_low, throw_high, throw_shape }: StripPicture): ThrowRange =>
    ranges.value[name] ?? { low: throw_low, high: throw_high, shape: throw_shape }
  function setThrowRange(strip: StripPicture, change: Partial<ThrowRange>) {
    ranges.value = { ...ranges.value, [strip.name]: { ...throwRangeOf(strip), ...change } }
  }
  /** Whether a touch chooses, as with Shift or Ctrl held: for hands that have no such keys. */
  const isChoosing = ref(false)
  return { isChoosing, throwPercent, contourRange, copiedStrip, throwRangeOf, setThrowRange }
})

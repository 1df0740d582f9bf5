/** What the whole lattice shows of every step: beads, or one property as bars. */
import { ref } from 'vue'

import type { PropertyName } from '@/api/client'

export const PROPERTY_VIEWS: readonly (readonly [PropertyName | null, string])[] = [
  [null, 'beads'],
  ['velocity', 'velocity'],
  ['chance', 'chance'],
  ['ratchet', 'ratchet'],
  ['nudge', 'nudge'],
  ['length', 'length'],
  ['pitch', 'pitch'],
]

export const shownProperty = ref<PropertyName | null>(null)

/** Go on to the next view, or the one before. */
export function turnProperty(by: number) {
  const here = PROPERTY_VIEWS.findIndex(([name]) => name === shownProperty.value)
  shownProperty.value =
    PROPERTY_VIEWS[(here + by + PROPERTY_VIEWS.length) % PROPERTY_VIEWS.length]?.[0] ?? null
}

/** What can be done to a whole strip. */
import { ref } from 'vue'

import type { Schemas } from '@/api/client'

export type StripOperation = Exclude<Schemas['StripQuestion']['action'], 'throw'>
export type Shape = NonNullable<Schemas['StripQuestion']['shape']>

/** Which contour, between which values, by how large leaps. */
export type ContourNeeds = Pick<Schemas['ContourQuestion'], 'contour' | 'low' | 'high' | 'leap'>
/** What the next contour is drawn between, for as long as the page is open. */
export const contourRange = ref({ low: 0, high: 7, leap: 3 })

export type StripAction =
  | { readonly kind: 'operation'; readonly operation: StripOperation }
  | { readonly kind: 'throw'; readonly low: number; readonly high: number; readonly shape: Shape }
  | { readonly kind: 'all'; readonly value: number }
  | { readonly kind: 'copy' }
  | { readonly kind: 'paste' }

/** The strip that was copied last: its values as they were; null where a step was plain. */
export const copiedStrip = ref<readonly (number | null)[] | null>(null)

/** Between which values each kind of strip is thrown, for as long as the page is open. */
export const throwRanges = ref<Record<string, { low: number; high: number; shape: Shape }>>({
  velocity: { low: 50, high: 115, shape: 'even' },
  chance: { low: 40, high: 100, shape: 'even' },
  ratchet: { low: 1, high: 4, shape: 'even' },
  nudge: { low: -12, high: 12, shape: 'middle' },
  length: { low: 25, high: 120, shape: 'even' },
  pitch: { low: 0, high: 7, shape: 'even' },
  octave: { low: -1, high: 1, shape: 'even' },
  chord: { low: 1, high: 4, shape: 'even' },
})
const WHOLE = { low: 0, high: 127, shape: 'even' } as const
export const throwRangeOf = (strip: string) => throwRanges.value[strip] ?? WHOLE

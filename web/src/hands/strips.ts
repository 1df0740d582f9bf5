/** What can be done to a whole strip. */
import type { Schemas } from '@/api/client'

export type StripOperation = Exclude<Schemas['StripQuestion']['action'], 'throw'>
export type Shape = NonNullable<Schemas['StripQuestion']['shape']>

/** Which contour, between which values, by how large leaps. */
export type ContourNeeds = Pick<Schemas['ContourQuestion'], 'contour' | 'low' | 'high' | 'leap'>

export type StripAction =
  | { readonly kind: 'operation'; readonly operation: StripOperation }
  | { readonly kind: 'throw'; readonly low: number; readonly high: number; readonly shape: Shape }
  | { readonly kind: 'all'; readonly value: number }
  | { readonly kind: 'copy' }
  | { readonly kind: 'paste' }

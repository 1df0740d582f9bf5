/** Where on a thread a hand is. */
import type { LanePicture, Property } from '@/api/client'
import { stepNear, tickAt, type TimeScale } from '../geometry/scale'

/** One lane's thread as it is drawn. */
export interface Drawn {
  readonly picture: LanePicture
  readonly scale: TimeScale
  readonly height: number
  /** What is shown and painted of every step in place of beads; null for beads. */
  readonly property: Property | null
}

/** The hand on an element: pixels from its left and upper edge. */
export interface Place {
  readonly x: number
  readonly y: number
}
export function placeOn(element: Element | null, { clientX, clientY }: PointerEvent): Place {
  const { left = 0, top = 0 } = element?.getBoundingClientRect() ?? {}
  return { x: clientX - left, y: clientY - top }
}

/** Index of the step under the hand among those in view; -1 if there is none. */
export const nearTo = ({ x }: Place, { picture, scale }: Drawn): number =>
  stepNear(picture.starts, tickAt(x, scale))

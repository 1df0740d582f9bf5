/** What detours play in a lane's stead, over the beads that it would have had. */
import type { LanePicture, Rendering } from '@/api/client'

import { circle, radiusOf, roomIn } from './beads'
import { pixelsOf, xOf, type TimeScale } from './scale'
import { yOfPitch } from './staff'

export interface AwayThread {
  /** Where detours hold: what would have been is pale there. */
  readonly stretches: readonly { readonly x: number; readonly width: number }[]
  readonly beads: string
}

export function awayThreadOf(
  picture: LanePicture,
  stretches: Rendering['away'],
  scale: TimeScale,
  height: number,
): AwayThread {
  const { away, staff } = picture
  const beads = (away?.starts ?? []).map((start, at) => {
    const next = away?.starts[at + 1]
    const apart = next !== undefined && next > start ? pixelsOf(next - start, scale) : Infinity
    const y = staff ? yOfPitch(away?.pitches[at] as number, staff, height) : height / 2
    return circle(
      xOf(start, scale),
      y,
      Math.min(roomIn(height), radiusOf(away?.velocities[at] as number, apart)),
    )
  })
  return {
    stretches: (stretches ?? []).map(({ start, end }) => {
      const x = xOf(start, scale)
      return { x, width: Math.max(1, xOf(end, scale) - x) }
    }),
    beads: beads.join(''),
  }
}

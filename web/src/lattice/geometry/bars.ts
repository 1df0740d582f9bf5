/** Values of the steps, drawn as bars in place of beads. */
import type { LanePicture } from '@/api/client'

import { round } from './beads'
import { PAD, pixelsOf, xOf, type TimeScale } from './scale'

/** One property of every step, as bars in place of beads. */
export interface PropertyBars {
  readonly hits: string
  readonly rests: string
  /** Where a value of nothing lies, as a share of the height from below. */
  readonly ground: number
}

/** Space above and below the bars. */
export const BAR_PAD = 5

export function propertyBars(
  lane: LanePicture,
  { low, high }: { low: number; high: number },
  scale: TimeScale,
  height: number,
): PropertyBars {
  const width = Math.max(1.5, Math.min(26, pixelsOf(lane.step_ticks, scale) - 2))
  const room = height - 2 * BAR_PAD
  const ground = low < 0 ? -low / (high - low) : 0
  const yOf = (share: number) => BAR_PAD + room * (1 - share)
  const isHit = new Set(lane.hits)
  const shapes: Record<'hits' | 'rests', string[]> = { hits: [], rests: [] }
  lane.values.forEach((value, step) => {
    const share = (value - low) / (high - low)
    const x = xOf(lane.starts[step] as number, scale)
    const [top, bottom] = [yOf(Math.max(share, ground)), yOf(Math.min(share, ground))]
    const shape = `M${round(x - Math.min(width / 2, PAD))} ${round(top)}h${round(width)}v${round(Math.max(1.5, bottom - top))}h${round(-width)}Z`
    shapes[isHit.has(step) ? 'hits' : 'rests'].push(shape)
  })
  return { hits: shapes.hits.join(''), rests: shapes.rests.join(''), ground }
}

/** The value at a height `y` of bars from `low` to `high`, whole. */
export function valueAtHeight(
  y: number,
  { low, high }: { low: number; high: number },
  height: number,
): number {
  const share = 1 - (y - BAR_PAD) / Math.max(1, height - 2 * BAR_PAD)
  return Math.min(high, Math.max(low, Math.round(low + share * (high - low))))
}

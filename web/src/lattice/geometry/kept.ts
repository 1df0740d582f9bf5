/** The thread of a lane in whose place a clip plays. */
import type { LanePicture } from '@/api/client'

import { circle, radiusOf, roomIn, round } from './beads'
import { pixelsOf, xOf, type TimeScale } from './scale'

/** A kept thread is doubled: notes lie between its two lines, by their pitch, and a stitch marks where it begins again. */
export interface KeptThread {
  readonly lines: string
  readonly beads: string
  readonly tails: string
  readonly stitches: readonly number[]
}

export function keptThreadOf(
  kept: NonNullable<LanePicture['kept']>,
  scale: TimeScale,
  height: number,
): KeptThread {
  const lowest = kept.pitches.reduce((low, pitch) => Math.min(low, pitch), 0)
  const highest = kept.pitches.reduce((high, pitch) => Math.max(high, pitch), 0)
  const room = height - Math.min(46, height * 0.6)
  const beads: string[] = []
  const tails: string[] = []
  kept.starts.forEach((start, at) => {
    const [x, next] = [xOf(start, scale), kept.starts[at + 1]]
    const apart = next !== undefined && next > start ? pixelsOf(next - start, scale) : Infinity
    const share =
      highest > lowest ? ((highest + lowest) / 2 - (kept.pitches[at] as number)) / (highest - lowest) : 0
    const y = height / 2 + share * room
    beads.push(circle(x, y, Math.min(roomIn(height), radiusOf(kept.velocities[at] as number, apart))))
    tails.push(`M${round(x)} ${round(y)}h${round(pixelsOf(kept.lengths[at] as number, scale))}`)
  })
  const pad = Math.min(10, height * 0.2)
  const lines = [pad, height - pad].map((y) => `M0 ${round(y)}H${round(scale.width)}`)
  return {
    lines: lines.join(''),
    beads: beads.join(''),
    tails: tails.join(''),
    stitches: kept.begins.map((tick) => xOf(tick, scale)),
  }
}

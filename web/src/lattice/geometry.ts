/** From the engine's answer to shapes: pure, in pixels. What is a hit, and when, is already decided. */
import type { LanePicture } from '@/api/client'

/** Equal distances are equal durations: the view shows `firstTick` up to `endTick` on `width` pixels. */
export interface Scale {
  readonly firstTick: number
  readonly endTick: number
  readonly width: number
}

/** Space on both sides, so that a bead on a bar line is whole. */
export const PAD = 14
export const MAX_RADIUS = 11
/** Steps narrower than this are upright marks instead of beads. */
const NARROW = 9

export const pixelsPerTick = ({ firstTick, endTick, width }: Scale): number =>
  Math.max(0, width - 2 * PAD) / Math.max(1, endTick - firstTick)
export const xOf = (tick: number, scale: Scale): number =>
  PAD + (tick - scale.firstTick) * pixelsPerTick(scale)
export const tickAt = (x: number, scale: Scale): number =>
  scale.firstTick + (x - PAD) / (pixelsPerTick(scale) || 1)

/** Beads of one look. `solid`, `ring` and `fill` are SVG paths; a ring is filled as far as its chance. */
export interface Beads {
  readonly isInBand: boolean
  readonly sounds: boolean
  readonly solid: string
  readonly ring: string
  readonly fill: string
}

export interface Thread {
  readonly band: { readonly x: number; readonly width: number } | null
  readonly stitches: readonly number[]
  /** Where the lane runs: all along, or only in its cycles. */
  readonly line: string
  readonly rests: string
  readonly tails: string
  /** Small marks above the steps that were turned by hand. */
  readonly notches: string
  readonly beads: readonly Beads[]
  readonly isMarks: boolean
}

const round = (value: number) => Math.round(value * 10) / 10

const circle = (x: number, y: number, r: number) =>
  `M${round(x - r)} ${round(y)}a${round(r)} ${round(r)} 0 1 0 ${round(2 * r)} 0a${round(r)} ${round(r)} 0 1 0 ${round(-2 * r)} 0`

/** The lower part of a circle, `share` (0-1) of its height. */
function segment(x: number, y: number, r: number, share: number): string {
  if (share <= 0) return ''
  const level = r - 2 * r * share
  const half = Math.sqrt(Math.max(0, r * r - level * level))
  const isLarge = share > 0.5 ? 1 : 0
  return `M${round(x - half)} ${round(y + level)}A${round(r)} ${round(r)} 0 ${isLarge} 0 ${round(x + half)} ${round(y + level)}Z`
}

const upright = (x: number, y: number, height: number) =>
  `M${round(x)} ${round(y - height / 2)}v${round(height)}`

/** A wedge that points down at a step, clear of the largest bead. */
const notch = (x: number, y: number) => `M${round(x - 4)} ${round(y - MAX_RADIUS - 8)}h8l-4 6z`

/** How large a bead of that velocity is, beside neighbours `stepPixels` away. */
export function radiusOf(velocity: number, stepPixels: number): number {
  return Math.min(MAX_RADIUS, stepPixels * 0.46) * (0.42 + 0.58 * (velocity / 127))
}

/** The shapes of one lane on a thread at height `y`. `narrow`: steps of fewer pixels become marks. */
export function threadOf(lane: LanePicture, scale: Scale, y: number, narrow = NARROW): Thread {
  const perTick = pixelsPerTick(scale)
  const stepPixels = lane.step_ticks * perTick
  const isMarks = stepPixels < narrow
  // A cycle is drawn from just before its first bead, so that the bead stands whole inside it.
  const lead = Math.min(PAD - 1, stepPixels / 2)
  const [bandStart, bandEnd] = bandOf(lane)
  const groups = new Map<
    string,
    { isInBand: boolean; sounds: boolean; solid: string[]; ring: string[]; fill: string[] }
  >()
  const tails: string[] = []

  lane.hits.forEach((step, at) => {
    const start = lane.starts[step] as number
    const x = xOf(start, scale)
    const velocity = lane.velocities[at] as number
    const chance = (lane.chances[at] as number) / 100
    const isInBand = start >= bandStart && start < bandEnd
    const sounds = lane.sounds[at] === 1
    const key = `${isInBand} ${sounds}`
    const group = groups.get(key) ?? { isInBand, sounds, solid: [], ring: [], fill: [] }
    groups.set(key, group)
    if (isMarks) {
      group.solid.push(upright(x, y, 6 + 26 * (velocity / 127)))
      return
    }
    const r = radiusOf(velocity, stepPixels)
    if (chance >= 1) group.solid.push(circle(x, y, r))
    else {
      group.ring.push(circle(x, y, r - 0.8))
      group.fill.push(segment(x, y, r - 0.8, chance))
    }
    const length = lane.lengths[at] as number
    if (Math.abs(length - lane.step_ticks) > 1) {
      tails.push(`M${round(x)} ${round(y)}h${round(Math.max(length * perTick, r + 2))}`)
    }
  })

  const isHit = new Set(lane.hits)
  const edited = new Set(lane.edited)
  const rests = isMarks
    ? []
    : lane.starts.filter((_, step) => !isHit.has(step)).map((start) => circle(xOf(start, scale), y, 2))
  return {
    band:
      bandStart < bandEnd ? bandShape(xOf(bandStart, scale) - lead, xOf(bandEnd, scale) - lead, scale) : null,
    stitches: lane.cycle_starts.map((start) => round(xOf(start, scale) - lead)),
    line: lineOf(lane, scale, y, lead),
    rests: rests.join(''),
    tails: tails.join(''),
    notches: lane.starts
      .filter((_, at) => edited.has(lane.numbers[at] as number))
      .map((start) => notch(xOf(start, scale), y))
      .join(''),
    beads: [...groups.values()].map(({ isInBand, sounds, solid, ring, fill }) => ({
      isInBand,
      sounds,
      solid: solid.join(''),
      ring: ring.join(''),
      fill: fill.join(''),
    })),
    isMarks,
  }
}

/** A line through all of the view; of a lane that sounds once in a pass, only where it does. */
function lineOf(lane: LanePicture, scale: Scale, y: number, lead: number): string {
  if (!lane.is_gapped) return `M0 ${round(y)}H${round(scale.width)}`
  const shown = lane.cycle_starts.map((start, at) => {
    const [from, to] = [xOf(start, scale) - lead, xOf(lane.cycle_ends[at] as number, scale) - lead]
    return `M${round(from)} ${round(y)}H${round(to)}`
  })
  return shown.join('')
}

/** The first whole cycle that begins in view, in ticks; empty if none begins. */
function bandOf({ cycle_starts, cycle_ends }: LanePicture): readonly [number, number] {
  const start = cycle_starts[0]
  const end = cycle_ends[0]
  return start === undefined || end === undefined ? [0, 0] : [start, end]
}

function bandShape(from: number, to: number, { width }: Scale) {
  return { x: round(from), width: round(Math.min(to, width) - from) }
}

/** Index into `starts` of the step whose bead lies nearest to `tick`; -1 if there is none. */
export function stepNear(starts: readonly number[], tick: number): number {
  let low = 0
  let high = starts.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((starts[middle] as number) < tick) low = middle + 1
    else high = middle
  }
  const before = starts[low - 1]
  const after = starts[low]
  if (before === undefined) return after === undefined ? -1 : low
  return after === undefined || tick - before <= after - tick ? low - 1 : low
}

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
const MAX_MELODIC_RADIUS = 8.5
/** Steps narrower than this are upright marks instead of beads. */
const NARROW = 9

export const pixelsPerTick = ({ firstTick, endTick, width }: Scale): number =>
  Math.max(0, width - 2 * PAD) / Math.max(1, endTick - firstTick)
export const xOf = (tick: number, scale: Scale): number =>
  PAD + (tick - scale.firstTick) * pixelsPerTick(scale)
export const tickAt = (x: number, scale: Scale): number => ticksBeside(scale.firstTick, x - PAD, scale)

export const pixelsOf = (ticks: number, scale: Scale): number => ticks * pixelsPerTick(scale)
/** What lies at every so many ticks in view, from the first to the last. */
export const everyTicks = (every: number, scale: Scale): { tick: number; x: number }[] =>
  Array.from({ length: Math.floor((scale.endTick - scale.firstTick) / every) + 1 }, (_, at) => {
    const tick = scale.firstTick + at * every
    return { tick, x: xOf(tick, scale) }
  })
export const snappedTo = (tick: number, every: number): number => Math.round(tick / every) * every

/** The tick that lies so many pixels after `tick`. */
export const ticksBeside = (tick: number, pixels: number, scale: Scale): number =>
  tick + pixels / (pixelsPerTick(scale) || 1)

/** Space above and below the outermost pitches; a low row has less to spare. */
const staffPad = (height: number) => Math.min(13, height * 0.24)
/** What a bead may be large in a row that is so high. */
const roomIn = (height: number) => height * 0.3
type Staff = NonNullable<LanePicture['staff']>

/** At which height a pitch of a melodic lane is drawn. */
export function yOfPitch(pitch: number, { low, high }: Staff, height: number): number {
  const pad = staffPad(height)
  return height - pad - ((pitch - low) / Math.max(1, high - low)) * (height - 2 * pad)
}
/** The pitch at a height: of those in the scale, or, where steps count in semitones, of all. */
export function pitchAtY(y: number, staff: Staff, height: number, isOfScale: boolean): number {
  const pad = staffPad(height)
  const share = (height - pad - y) / Math.max(1, height - 2 * pad)
  const exact = staff.low + share * (staff.high - staff.low)
  if (!isOfScale) return Math.min(staff.high, Math.max(staff.low, Math.round(exact)))
  return staff.lines.reduce(
    (near, line) => (Math.abs(line - exact) < Math.abs(near - exact) ? line : near),
    staff.low,
  )
}
/** By how many steps of its strip a pitch lies above another: lines of the scale, or semitones. */
export function stepsBetween(from: number, to: number, { lines }: Staff, isOfScale: boolean): number {
  if (!isOfScale) return to - from
  const placeOf = (pitch: number) => lines.filter((line) => line <= pitch).length
  return placeOf(to) - placeOf(from)
}

/** Beads of one look. `solid`, `ring` and `fill` are SVG paths; a ring is filled as far as its chance. */
export interface Beads {
  readonly isInBand: boolean
  readonly sounds: boolean
  readonly solid: string
  readonly ring: string
  readonly fill: string
  /** Caps over accents, bars under ratchets. */
  readonly caps: string
}

/** A letter of a linked step, or by how many octaves it is higher. */
export interface Tag {
  readonly x: number
  readonly y: number
  readonly text: string
}

export interface Thread {
  readonly band: { readonly x: number; readonly width: number } | null
  readonly stitches: readonly number[]
  /** Where the lane runs: all along, or only in its cycles. */
  readonly line: string
  readonly rests: string
  /** From bead to bead of a melodic lane. */
  readonly curve: string
  readonly tails: string
  /** Small marks above the steps that were turned by hand. */
  readonly notches: string
  readonly beads: readonly Beads[]
  readonly tags: readonly Tag[]
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
const notch = (x: number, y: number) => `M${round(x - 4)} ${round(Math.max(0.5, y - MAX_RADIUS - 8))}h8l-4 6z`

/** How large a bead of that velocity is, beside neighbours `stepPixels` away. */
export function radiusOf(velocity: number, stepPixels: number): number {
  return Math.min(MAX_RADIUS, stepPixels * 0.46) * (0.42 + 0.58 * (velocity / 127))
}

/** A cap over an accent. */
const cap = (x: number, y: number, r: number) => {
  const half = Math.max(3, r * 0.75)
  return `M${round(x - half)} ${round(y - r - 2)}q${round(half)} -5 ${round(2 * half)} 0`
}
const bar = (from: number, to: number, y: number) => `M${round(from)} ${round(y)}H${round(to)}`

class Pen {
  readonly solid: string[] = []
  readonly ring: string[] = []
  readonly fill: string[] = []
  readonly caps: string[] = []
  constructor(
    readonly isInBand: boolean,
    readonly sounds: boolean,
  ) {}

  bead(x: number, y: number, r: number, chance: number) {
    if (chance >= 1) this.solid.push(circle(x, y, r))
    else {
      this.ring.push(circle(x, y, Math.max(0.5, r - 0.8)))
      this.fill.push(segment(x, y, Math.max(0.5, r - 0.8), chance))
    }
  }
  beads(): Beads {
    const { isInBand, sounds, solid, ring, fill, caps } = this
    return {
      isInBand,
      sounds,
      solid: solid.join(''),
      ring: ring.join(''),
      fill: fill.join(''),
      caps: caps.join(''),
    }
  }
}

/** A word at height `at` over or under a bead; beside it where the row is too low for that. */
function tagOf(text: string, x: number, at: number, y: number, r: number, height: number): Tag {
  const fits = at >= 9 && at <= height - 1
  return fits ? { x: round(x), y: round(at), text } : { x: round(x + r + 7), y: round(y + 4), text }
}

/** How much room a hit's beads have to the next step, and how far down a ratchet’s bar lies. */
const UNDER = 4

/** The shapes of one lane on a thread at height `y`. `narrow`: steps of fewer pixels become marks. */
export function threadOf(lane: LanePicture, scale: Scale, middle: number, narrow = NARROW): Thread {
  const { staff } = lane
  const height = 2 * middle
  // The thread of a melodic lane lies on its own note; its beads leave it by their pitch.
  const y = staff ? yOfPitch(staff.note, staff, height) : middle
  const yOf = (pitch: number | undefined) =>
    staff && pitch !== undefined ? yOfPitch(pitch, staff, height) : y
  const curve: string[] = []
  let before: readonly [number, number] | null = null
  const perTick = pixelsPerTick(scale)
  const stepPixels = lane.step_ticks * perTick
  const maxMelodic = Math.min(MAX_MELODIC_RADIUS, height * 0.15)
  const isMarks = stepPixels < narrow
  // A cycle is drawn from just before its first bead, so that the bead stands whole inside it.
  const lead = Math.min(PAD - 1, stepPixels / 2)
  const [bandStart, bandEnd] = bandOf(lane)
  const pens = new Map<string, Pen>()
  const penOf = (tick: number, sounds: boolean) => {
    const isInBand = tick >= bandStart && tick < bandEnd
    const key = `${isInBand} ${sounds}`
    const pen = pens.get(key) ?? new Pen(isInBand, sounds)
    pens.set(key, pen)
    return pen
  }
  const tails: string[] = []
  const tags: Tag[] = []

  lane.hits.forEach((step, at) => {
    const start = lane.starts[step] as number
    const x = xOf(lane.onsets[at] ?? start, scale)
    const velocity = lane.velocities[at] as number
    const chance = (lane.chances[at] as number) / 100
    const pen = penOf(start, lane.sounds[at] === 1)
    const count = lane.ratchets[at] ?? 1
    const isAccent = lane.accents[at] === 1
    const row = staff ? (lane.pitches[at] ?? []) : []
    if (staff && !row.length) return // an empty pool rests
    const y = yOf(row[0])
    if (staff) {
      // From bead to bead in a soft line, so that the eye follows the tune.
      const half = before ? (x - before[0]) / 2 : 0
      curve.push(before ? `C${round(before[0] + half)} ${round(before[1])} ${round(x - half)} ${round(y)} ${round(x)} ${round(y)}` : `M${round(x)} ${round(y)}`) // prettier-ignore
      before = [x, y]
    }
    if (isMarks) {
      // A mark that may be skipped is thin; a ratchet stands on a bar, an accent under a cap, as beads do.
      const height = staff ? 4 + 8 * (velocity / 127) : 6 + 26 * (velocity / 127)
      if (chance >= 1) pen.solid.push(upright(x, y, height))
      else pen.ring.push(upright(x, y, height))
      if (isAccent) pen.caps.push(cap(x, y, height / 2))
      if (count > 1) pen.caps.push(bar(x - 2, x + stepPixels - 2, y + height / 2 + UNDER))
      return
    }
    const r = Math.min(staff ? maxMelodic : roomIn(height), radiusOf(velocity, stepPixels))
    if (count > 1) ratchet(pen, x, y, r, chance, stepPixels, count)
    else pen.bead(x, y, r, chance)
    for (const pitch of row.slice(1)) pen.bead(x, yOf(pitch), r * 0.72, chance)
    if (row.length > 1) {
      const ys = row.map(yOf)
      pen.caps.push(`M${round(x)} ${round(Math.min(...ys))}V${round(Math.max(...ys))}`)
    }
    if (isAccent) pen.caps.push(cap(x, y, r))
    const length = lane.lengths[at] as number
    const isTied = lane.ties[at] === 1
    if (isTied || Math.abs(length - lane.step_ticks) > lane.step_ticks * 0.3) {
      tails.push(`M${round(x)} ${round(y)}h${round(Math.max(length * perTick - (isTied ? r : 0), r + 2))}`)
    }
    const letter = lane.letters[at]
    if (letter) tags.push(tagOf(letter, x, y + r + 11, y, r, height))
    const octave = staff ? 0 : (lane.octaves[at] ?? 0)
    if (octave) tags.push(tagOf(octave > 0 ? `+${octave}` : `−${-octave}`, x, y - r - 4, y, r, height))
  })

  for (const burst of lane.bursts) {
    const pen = penOf(burst.start, burst.sounds)
    const room = ((burst.end - burst.start) * perTick) / Math.max(1, burst.notes.length)
    burst.notes.forEach((note, at) => {
      const velocity = burst.velocities[at] as number
      const x = xOf(note, scale)
      if (room < narrow) pen.solid.push(upright(x, y, 6 + 26 * (velocity / 127)))
      else pen.solid.push(circle(x, y, radiusOf(velocity, room) * 0.85))
    })
    // Its ends are turned up, so that it reads as one thing.
    const [from, to] = [xOf(burst.start, scale) - 4, xOf(burst.end, scale) - 4]
    pen.caps.push(`M${round(from)} ${round(y + 10)}v5H${round(to)}v-5`)
  }

  const isHit = new Set(lane.hits)
  const edited = new Set(lane.edited)
  const isMoved = new Set(
    lane.hits.filter((step, at) => (lane.onsets[at] ?? lane.starts[step]) !== lane.starts[step]),
  )
  // A dot where a step rests, and where one stood before it was moved.
  const rests = isMarks
    ? []
    : lane.starts.flatMap((start, step) =>
        !isHit.has(step) || isMoved.has(step) ? circle(xOf(start, scale), y, 2) : [],
      )
  return {
    band:
      bandStart < bandEnd ? bandShape(xOf(bandStart, scale) - lead, xOf(bandEnd, scale) - lead, scale) : null,
    stitches: lane.cycle_starts.map((start) => round(xOf(start, scale) - lead)),
    line: lineOf(lane, scale, y, lead),
    rests: rests.join(''),
    curve: curve.join(''),
    tails: tails.join(''),
    notches: lane.starts
      .filter((_, at) => edited.has(lane.numbers[at] as number))
      .map((start) => notch(xOf(start, scale), y))
      .join(''),
    beads: [...pens.values()].map((pen) => pen.beads()),
    tags,
    isMarks,
  }
}

/** A kept thread is doubled: notes lie between its two lines, by their pitch, and a stitch marks where it begins again. */
export interface KeptThread {
  readonly lines: string
  readonly beads: string
  readonly tails: string
  readonly stitches: readonly number[]
}

export function keptThreadOf(
  kept: NonNullable<LanePicture['kept']>,
  scale: Scale,
  height: number,
): KeptThread {
  const lowest = kept.pitches.reduce((low, pitch) => Math.min(low, pitch), 0)
  const highest = kept.pitches.reduce((high, pitch) => Math.max(high, pitch), 0)
  const room = height - Math.min(46, height * 0.6)
  const perTick = pixelsPerTick(scale)
  const beads: string[] = []
  const tails: string[] = []
  kept.starts.forEach((start, at) => {
    const [x, next] = [xOf(start, scale), kept.starts[at + 1]]
    const apart = next !== undefined && next > start ? (next - start) * perTick : Infinity
    const share =
      highest > lowest ? ((highest + lowest) / 2 - (kept.pitches[at] as number)) / (highest - lowest) : 0
    const y = height / 2 + share * room
    beads.push(circle(x, y, Math.min(roomIn(height), radiusOf(kept.velocities[at] as number, apart))))
    tails.push(`M${round(x)} ${round(y)}h${round((kept.lengths[at] as number) * perTick)}`)
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

/** A row of shrinking beads with a bar under it: as many as there is room for. */
function ratchet(
  pen: Pen,
  x: number,
  y: number,
  r: number,
  chance: number,
  stepPixels: number,
  count: number,
) {
  const apart = stepPixels / count
  for (let note = 0; note < count; note++) {
    const small = Math.min(r * (1 - (0.55 * note) / count), apart * 0.48)
    if (small >= 0.9) pen.bead(x + note * apart, y, small, chance)
    else pen.solid.push(upright(x + note * apart, y, r))
  }
  pen.caps.push(bar(x - Math.min(r, apart * 0.48), x + (count - 1) * apart + 1, y + r + UNDER))
}

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
  scale: Scale,
  height: number,
): PropertyBars {
  const width = Math.max(1.5, Math.min(26, lane.step_ticks * pixelsPerTick(scale) - 2))
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

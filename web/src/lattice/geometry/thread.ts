/** From the engine's answer to the shapes of a thread. What is a hit, and when, is already decided. */
import type { LanePicture } from '@/api/client'

import {
  bar,
  cap,
  circle,
  notch,
  Pen,
  radiusOf,
  ratchet,
  roomIn,
  round,
  tagOf,
  UNDER,
  upright,
  type Beads,
  type Tag,
} from './beads'
import { PAD, pixelsOf, xOf, type TimeScale } from './scale'
import { yOfPitch } from './staff'

const MAX_MELODIC_RADIUS = 8.5
/** Steps narrower than this are upright marks instead of beads. */
const NARROW = 9

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
  /** Hits that are not heard, since another lane hits the same voice harder at the same moment. */
  readonly silent: readonly Tag[]
  readonly isMarks: boolean
}

/** Why a hit is not heard. `lane`: the name of the one that is. */
export const silentUnder = (lane: string) => `not heard: ${lane} hits the same sound harder here`

/** The shapes of one lane on a thread at height `y`. `narrow`: steps of fewer pixels become marks. */
export function threadOf(lane: LanePicture, scale: TimeScale, middle: number, narrow = NARROW): Thread {
  const { staff } = lane
  const height = 2 * middle
  // The thread of a melodic lane lies on its own note; its beads leave it by their pitch.
  const y = staff ? yOfPitch(staff.note, staff, height) : middle
  const yOf = (pitch: number | undefined) =>
    staff && pitch !== undefined ? yOfPitch(pitch, staff, height) : y
  const curve: string[] = []
  let before: readonly [number, number] | null = null
  const stepPixels = pixelsOf(lane.step_ticks, scale)
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
  const silent: Tag[] = []

  lane.hits.forEach((step, at) => {
    const start = lane.starts[step] as number
    const x = xOf(lane.onsets[at] ?? start, scale)
    const velocity = lane.velocities[at] as number
    const chance = (lane.chances[at] as number) / 100
    const louder = lane.louder[at]
    const pen = penOf(start, lane.sounds[at] === 1 && !louder)
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
    if (louder) silent.push({ x: round(x), y: round(y), text: silentUnder(louder) })
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
    const pixels = pixelsOf(length, scale)
    if (isTied || Math.abs(pixels - stepPixels) > stepPixels * 0.3) {
      tails.push(`M${round(x)} ${round(y)}h${round(Math.max(pixels - (isTied ? r : 0), r + 2))}`)
    }
    const letter = lane.letters[at]
    if (letter) tags.push(tagOf(letter, x, y + r + 11, y, r, height))
    const octave = staff ? 0 : (lane.octaves[at] ?? 0)
    if (octave) tags.push(tagOf(octave > 0 ? `+${octave}` : `−${-octave}`, x, y - r - 4, y, r, height))
  })

  for (const burst of lane.bursts) {
    const pen = penOf(burst.start, burst.sounds)
    const room = pixelsOf(burst.end - burst.start, scale) / Math.max(1, burst.notes.length)
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
    silent,
    isMarks,
  }
}

/** A line through all of the view; of a lane that sounds once in a pass, only where it does. */
function lineOf(lane: LanePicture, scale: TimeScale, y: number, lead: number): string {
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

function bandShape(from: number, to: number, { width }: TimeScale) {
  return { x: round(from), width: round(Math.min(to, width) - from) }
}

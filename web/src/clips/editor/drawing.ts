/** The editor's sheet on a canvas: threads, beads with tails, what is painted below. Everything is given; nothing is kept. */
import type { Schemas } from '@/api/client'
import { MAX_RADIUS, radiusOf } from '@/lattice/geometry/beads'
import { inkOf } from '@/theme/inks'
import { gridWithin, pixelsIn, tickIn, ticksOfWay, xIn } from '@/lattice/geometry/scale'
import { firstFrom, MIN_WIDTH, rowOf, type SheetRow, type Window } from './layout'

type Note = Schemas['Note']
type Point = readonly [number, number]

/** What a hand is doing, as far as it is drawn before it is done. */
export type Hand =
  | { kind: 'move' | 'resize'; x: number; y: number; steps: number; rows: number; ticks: number }
  | { kind: 'box'; from: Point; to: Point; isMore: boolean }
  | { kind: 'velocity'; on: Painted; values: Map<string, [number, number, number]>; last: Point }
  | { kind: 'control'; points: Map<number, number>; last: Point }
/** The clip as it was when a stroke began, and what was chosen then: a stroke is for those notes. */
export interface Painted {
  readonly clip: Schemas['Clip']
  readonly chosen: readonly (readonly number[])[]
}

export const RULER = 22
/** Pixels for what is painted below. */
export const LOW = 92
const FLOOR = 4

/** How high a value of 0-127 stands below, in pixels. */
const tall = (value: number) => (value / 127) * (LOW - 12)
/** The value at `y` pixels from the top of what is painted below. */
export const valueBelow = (y: number) => Math.round(Math.min(1, Math.max(0, 1 - (y - 8) / (LOW - 12))) * 127)

export interface Seen {
  readonly clip: Schemas['Clip']
  readonly rows: readonly SheetRow[]
  readonly chosen: readonly (readonly number[])[]
  readonly window: Window
  readonly width: number
  readonly height: number
  readonly barTicks: number
  readonly stepTicks: number
  readonly control: { readonly track: number; readonly controller: number } | null
  readonly hand: Hand | null
  /** Where the music is, in ticks; null: nowhere. */
  readonly nowTick: number | null
}
type Shades = Readonly<Record<'paper' | 'card' | 'ink' | 'soft' | 'rule' | 'act' | 'keep', string>>

function shadesOf(element: Element): Shades {
  const style = getComputedStyle(element)
  const of = (role: string) => style.getPropertyValue(`--${role}`).trim()
  return {
    paper: of('paper'), card: of('card'), ink: of('ink'), soft: of('soft-ink'), rule: of('rule'), act: of('act'), keep: of('keep'),
  } // prettier-ignore
}

export function drawSheet(canvas: HTMLCanvasElement, seen: Seen) {
  const context = canvas.getContext('2d')
  if (!context || !seen.width) return
  const shades = shadesOf(canvas)
  const pixel = window.devicePixelRatio
  context.setTransform(pixel, 0, 0, pixel, 0, 0)
  context.clearRect(0, 0, seen.width, seen.height)
  drawThreads(context, seen, shades)
  drawGrid(context, seen, shades)
  context.save()
  context.beginPath()
  context.rect(0, RULER, seen.width, seen.height - LOW - RULER)
  context.clip()
  seen.clip.tracks.forEach((_, track) => drawTrack(context, seen, shades, track))
  context.restore()
  drawBelow(context, seen, shades)
  if (seen.hand?.kind === 'box') drawBox(context, seen.hand, shades)
  if (seen.nowTick !== null) {
    context.fillStyle = shades.act
    context.fillRect(xIn(seen.nowTick, seen.window) - 1, 0, 2, seen.height)
  }
}

/** A thread a row, as in the lattice; of pitches each C is the stronger one. */
function drawThreads(context: CanvasRenderingContext2D, seen: Seen, shades: Shades) {
  const { clip, rows, width, height } = seen
  const { rowHeight, top } = seen.window
  const low = height - LOW
  context.fillStyle = shades.card
  context.fillRect(0, RULER, xIn(clip.length_ticks, seen.window), low - RULER)
  rows.forEach(({ track, pitch }, at) => {
    const y = RULER + (at + 0.5) * rowHeight - top
    if (y < RULER || y > low) return
    const isStrong = pitch !== null && pitch % 12 === 0
    context.fillStyle =
      track === null ? (isStrong ? shades.soft : shades.rule) : inkOf(clip.tracks[track]?.ink ?? 0)
    context.globalAlpha = track === null ? (isStrong ? 0.6 : 0.75) : 0.35
    context.fillRect(0, y - 0.5, width, 1.2)
  })
  context.globalAlpha = 1
}

/** Steps where there is room for them, and bars with their numbers, from 1. */
function drawGrid(
  context: CanvasRenderingContext2D,
  { clip, window: view, width, height, barTicks, stepTicks }: Seen,
  shades: Shades,
) {
  const lastTick = Math.min(clip.length_ticks, tickIn(width, view))
  context.fillStyle = shades.rule
  if (pixelsIn(stepTicks, view) >= 7)
    for (const { tick } of gridWithin(view.firstTick, lastTick, stepTicks))
      context.fillRect(xIn(tick, view), RULER, 1, height)
  context.font = '600 12px "Atkinson Hyperlegible Next Variable"'
  for (const { line: bar, tick } of gridWithin(view.firstTick, lastTick, barTicks)) {
    context.fillStyle = shades.soft
    context.fillRect(xIn(tick, view), 4, 1.5, height)
    context.fillStyle = shades.ink
    if (tick < clip.length_ticks) context.fillText(String(bar + 1), xIn(tick, view) + 5, 15)
  }
}

/** Beads that were drawn before, by colour and size: thousands of them are stamped faster than drawn. */
const stamps = new Map<string, OffscreenCanvas>()
function stampBead(context: CanvasRenderingContext2D, colour: string, x: number, y: number, r: number) {
  const size = Math.max(1, Math.round(r * 2))
  const key = `${colour} ${size}`
  let stamp = stamps.get(key)
  if (!stamp) {
    stamp = new OffscreenCanvas(size * 4, size * 4)
    const pen = stamp.getContext('2d')
    if (pen) {
      pen.fillStyle = colour
      pen.arc(size * 2, size * 2, size * 2, 0, 2 * Math.PI)
      pen.fill()
    }
    stamps.set(key, stamp)
  }
  context.drawImage(stamp, x, y - size / 2, size, size)
}

/** The longest note of a track: how far before the view one may begin that reaches into it. */
const longests = new WeakMap<readonly Note[], number>()
function longestOf(notes: readonly Note[]): number {
  const longest = longests.get(notes) ?? notes.reduce((most, [, length]) => Math.max(most, length), 0)
  longests.set(notes, longest)
  return longest
}

/** The first note that may reach into a view that begins there. */
const reachingInto = (notes: Note[], begin: number) => firstFrom(notes, begin - longestOf(notes))

/** Beads as large as notes are loud, with tails as long as they sound; those a hand moves, where it has them. */
function drawTrack(context: CanvasRenderingContext2D, seen: Seen, shades: Shades, track: number) {
  const { rows, width, height, hand, stepTicks } = seen
  const { rowHeight, top, firstTick } = seen.window
  const { notes, ink } = seen.clip.tracks[track] ?? { notes: [], ink: 0 }
  const lastTick = tickIn(width, seen.window)
  const isMoved = hand?.kind === 'move' || hand?.kind === 'resize'
  const by = isMoved ? ticksOfWay(hand, stepTicks) : 0
  const chosen = new Set(seen.chosen[track] ?? [])
  const colour = inkOf(ink)
  const rings = new Path2D()
  context.fillStyle = colour
  const end = isMoved ? notes.length : firstFrom(notes, lastTick)
  for (let place = isMoved ? 0 : reachingInto(notes, firstTick); place < end; place++) {
    const [start, length, pitch, velocity] = notes[place] as Note
    const isMeant = chosen.has(place)
    const isHeld = isMeant && hand?.kind === 'move'
    const begin = isHeld ? start + by : start
    const long = isMeant && hand?.kind === 'resize' ? Math.max(1, length + by) : length
    if (begin + long < firstTick || begin > lastTick) continue
    const row = rowOf(rows, track, pitch) + (isHeld ? hand.rows : 0)
    const [x, y] = [xIn(begin, seen.window), RULER + (row + 0.5) * rowHeight - top]
    if (y + rowHeight < RULER || y - rowHeight > height - LOW) continue
    const following = notes[place + 1]?.[0] ?? Infinity
    const apart = following > start ? pixelsIn(following - start, seen.window) : Infinity
    const r = Math.max(1, radiusOf(velocity, Math.min(apart, rowHeight)))
    const wide = Math.max(MIN_WIDTH, pixelsIn(long, seen.window) - 1)
    if (wide > 2 * r) {
      context.globalAlpha = 0.34
      context.fillRect(x + r, y - r * 0.55, wide - r, r * 1.1)
      context.globalAlpha = 1
    }
    stampBead(context, colour, x, y, r)
    if (isMeant)
      rings.roundRect(x - 2, y - r - 2, Math.max(wide, 2 * r) + 4, 2 * r + 4, Math.min(r, MAX_RADIUS) + 2)
  }
  context.strokeStyle = shades.ink
  context.lineWidth = 2
  context.stroke(rings)
}

function drawBelow(context: CanvasRenderingContext2D, seen: Seen, shades: Shades) {
  const { width, height } = seen
  context.fillStyle = shades.paper
  context.fillRect(0, height - LOW, width, LOW)
  context.fillStyle = shades.soft
  context.fillRect(0, height - LOW, width, 1.5)
  if (seen.control) drawControl(context, seen, seen.control)
  else drawVelocities(context, seen)
}

/** Every velocity as a post; with notes chosen, the others are pale. */
function drawVelocities(
  context: CanvasRenderingContext2D,
  { clip, chosen, window: view, width, height, hand }: Seen,
) {
  const floor = height - FLOOR
  const values = hand?.kind === 'velocity' ? hand.values : null
  const isAnyChosen = chosen.some((places) => places.length > 0)
  clip.tracks.forEach(({ notes, ink }, track) => {
    const end = firstFrom(notes, tickIn(width, view))
    const meant = new Set(chosen[track] ?? [])
    context.fillStyle = inkOf(ink)
    for (let at = firstFrom(notes, tickIn(-6, view)); at < end; at++) {
      const [start, , , hard] = notes[at] as Note
      const high = tall(values?.get(`${track} ${at}`)?.[2] ?? hard)
      const x = xIn(start, view)
      context.globalAlpha = isAnyChosen && !meant.has(at) ? 0.18 : 0.85
      context.fillRect(x, floor - high, 3, high)
      context.fillRect(x - 1, floor - high, 5, 3)
    }
  })
  context.globalAlpha = 1
}

/** A controller's values, each held until the next. */
function drawControl(
  context: CanvasRenderingContext2D,
  { clip, window: view, height, hand }: Seen,
  { track, controller }: { readonly track: number; readonly controller: number },
) {
  const floor = height - FLOOR
  const now = hand?.kind === 'control' ? hand.points : new Map<number, number>()
  const stored = (clip.tracks[track]?.controls ?? []).filter((point) => point[1] === controller)
  const points = [
    ...stored.filter(([tick]) => !now.has(tick)).map(([tick, , value]) => [tick, value] as const),
    ...now,
  ].sort((one, other) => one[0] - other[0])
  context.strokeStyle = context.fillStyle = inkOf(clip.tracks[track]?.ink ?? 0)
  context.lineWidth = 2
  context.beginPath()
  points.forEach(([tick, value], at) => {
    const [x, y] = [xIn(tick, view), floor - tall(value)]
    context.moveTo(x, y)
    context.lineTo(xIn(points[at + 1]?.[0] ?? clip.length_ticks, view), y)
    context.fillRect(x - 2, y - 2, 5, 5)
  })
  context.stroke()
}

function drawBox(context: CanvasRenderingContext2D, { from, to }: Hand & { kind: 'box' }, shades: Shades) {
  const [x, y] = [Math.min(from[0], to[0]), Math.min(from[1], to[1])]
  const [w, h] = [Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])]
  context.fillStyle = `color-mix(in srgb, ${shades.keep} 25%, transparent)`
  context.fillRect(x, y, w, h)
  context.strokeStyle = shades.ink
  context.lineWidth = 1.2
  context.setLineDash([5, 3])
  context.strokeRect(x, y, w, h)
  context.setLineDash([])
}

/** Time on the page: the one place that turns ticks into pixels, and back. */

/** Equal distances are equal durations: the view shows `firstTick` up to `endTick` on `width` pixels. */
export interface TimeScale {
  readonly firstTick: number
  readonly endTick: number
  readonly width: number
}

/** Space on both sides, so that a bead on a bar line is whole. */
export const PAD = 14
export const pixelsPerTick = ({ firstTick, endTick, width }: TimeScale): number =>
  Math.max(0, width - 2 * PAD) / Math.max(1, endTick - firstTick)
export const xOf = (tick: number, scale: TimeScale): number =>
  PAD + (tick - scale.firstTick) * pixelsPerTick(scale)
export const tickAt = (x: number, scale: TimeScale): number => ticksBeside(scale.firstTick, x - PAD, scale)

export const pixelsOf = (ticks: number, scale: TimeScale): number => ticks * pixelsPerTick(scale)
/** What lies at every so many ticks in view, from the first to the last. */
export const everyTicks = (every: number, scale: TimeScale): { tick: number; x: number }[] =>
  Array.from({ length: Math.floor((scale.endTick - scale.firstTick) / every) + 1 }, (_, at) => {
    const tick = scale.firstTick + at * every
    return { tick, x: xOf(tick, scale) }
  })
/** Where between the ends of a view a tick lies: 0 at its left, 1 at its right. */
export const shareAt = (
  tick: number,
  { firstTick, endTick }: Pick<TimeScale, 'firstTick' | 'endTick'>,
): number => (tick - firstTick) / Math.max(1, endTick - firstTick)
/** The tick that lies at a share of a view, 0 to 1. */
export const tickAtShare = (
  share: number,
  { firstTick, endTick }: Pick<TimeScale, 'firstTick' | 'endTick'>,
): number => firstTick + Math.min(1, Math.max(0, share)) * (endTick - firstTick)
export const snappedTo = (tick: number, every: number): number => Math.round(tick / every) * every

/** The tick so many lines of a grid further, within what is in view. */
export const lineBeside = (
  tick: number,
  by: number,
  every: number,
  { firstTick, endTick }: TimeScale,
): number => Math.min(endTick - every, Math.max(firstTick, snappedTo(tick, every) + by * every))

/** The stretch that holds the steps that begin from `first` to `last`: half a step more on either side. */
export const stretchAround = (first: number, last: number, stepTicks: number): [number, number] => [
  Math.max(0, Math.round(first - stepTicks / 2)),
  Math.round(last + stepTicks / 2),
]

/** The tick that lies so many pixels after `tick`. */
export const ticksBeside = (tick: number, pixels: number, scale: TimeScale): number =>
  tick + pixels / (pixelsPerTick(scale) || 1)

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

// ---- A sheet that is zoomed and scrolled: from `firstTick` on, `perTick` pixels a tick ----

export interface Zoom {
  readonly firstTick: number
  readonly perTick: number
}
/** No tick is wider, in pixels. */
const WIDEST = 0.5

export const xIn = (tick: number, { firstTick, perTick }: Zoom): number => (tick - firstTick) * perTick
export const tickIn = (x: number, { firstTick, perTick }: Zoom): number => firstTick + x / perTick
export const pixelsIn = (ticks: number, { perTick }: Zoom): number => ticks * perTick
const ticksIn = (pixels: number, { perTick }: Zoom): number => pixels / perTick
/** So many ticks, from 0 on, just filling so many pixels. */
export const filling = (ticks: number, width: number): Zoom => ({ firstTick: 0, perTick: width / ticks })

/** Zoomed by a factor about `x`, where all of `length` ticks is the least that is shown on `width` pixels. */
export function zoomed(now: Zoom, by: number, x: number, width: number, length: number): Zoom {
  const perTick = Math.min(WIDEST, Math.max(filling(length, width).perTick, now.perTick * by))
  return { firstTick: tickIn(x, now) - x / perTick, perTick }
}
/** The first tick in view after scrolling to `tick`: nothing is shown before the beginning or after `length`. */
export const scrolledTo = (tick: number, zoom: Zoom, width: number, length: number): number =>
  Math.max(0, Math.min(length - ticksIn(width, zoom), tick))

/** The lines of a grid of `every` ticks from that before `from` up to `to`: the number of each, and its tick. */
export function gridWithin(from: number, to: number, every: number): { line: number; tick: number }[] {
  const lines = []
  if (every > 0)
    for (let line = Math.max(0, Math.floor(from / every)); line * every <= to; line++)
      lines.push({ line, tick: Math.round(line * every) })
  return lines
}
/** How far a hand that has gone so many pixels moves notes: by whole steps of a grid, or where it has none by ticks. */
export function wayOf(pixels: number, zoom: Zoom, every: number): { steps: number; ticks: number } {
  const ticks = ticksIn(pixels, zoom)
  return every ? { steps: Math.round(ticks / every), ticks: 0 } : { steps: 0, ticks: Math.round(ticks) }
}
/** The same in ticks. */
export const ticksOfWay = ({ steps, ticks }: { steps: number; ticks: number }, every: number): number =>
  ticks + Math.round(steps * every)
/** Where the bar lines of a sheet of `length` ticks lie that is `width` wide, its ends left out. */
export const barLinesOf = (length: number, barTicks: number, width: number): number[] =>
  gridWithin(barTicks, length, barTicks).flatMap(({ tick }) =>
    tick < length ? xIn(tick, filling(length, width)) : [],
  )

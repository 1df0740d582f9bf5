/** Time on the page: the one place that turns ticks into pixels, and back. */

/** Equal distances are equal durations: the view shows `firstTick` up to `endTick` on `width` pixels. */
export interface Scale {
  readonly firstTick: number
  readonly endTick: number
  readonly width: number
}

/** Space on both sides, so that a bead on a bar line is whole. */
export const PAD = 14
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
/** Where between the ends of a view a tick lies: 0 at its left, 1 at its right. */
export const shareAt = (tick: number, { firstTick, endTick }: Pick<Scale, 'firstTick' | 'endTick'>): number =>
  (tick - firstTick) / Math.max(1, endTick - firstTick)
export const snappedTo = (tick: number, every: number): number => Math.round(tick / every) * every

/** The stretch that holds the steps that begin from `first` to `last`: half a step more on either side. */
export const stretchAround = (first: number, last: number, stepTicks: number): [number, number] => [
  Math.max(0, Math.round(first - stepTicks / 2)),
  Math.round(last + stepTicks / 2),
]

/** The tick that lies so many pixels after `tick`. */
export const ticksBeside = (tick: number, pixels: number, scale: Scale): number =>
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

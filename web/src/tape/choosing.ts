/** Which bars of those on show are meant. Positions count the bars on show, from 0. */
import { startOfBar } from '@/sound/time'
import type { TapeBar, TapeStretch } from '@/sound/tape'

export interface ChosenBars {
  readonly stretch: TapeStretch
  /** Bars of the pattern: from `first` up to `end`. */
  readonly first: number
  readonly end: number
  /** The same as positions on show. */
  readonly from: number
  readonly to: number
}

/** What a drag from one bar to another means: whole bars that sounded, all of the stretch where it began. */
export function draggedBars(bars: readonly TapeBar[], from: number, to: number): ChosenBars | null {
  const began = bars[Math.min(Math.max(0, from), bars.length - 1)]
  if (!began) return null
  const [low, high] = [Math.min(from, to), Math.max(from, to)]
  return across(bars, began.stretch, (at) => at >= low && at <= high)
}

/** The last `count` whole bars of the newest stretch that has one. */
export function lastWholeBars(bars: readonly TapeBar[], count: number): ChosenBars | null {
  const newest = bars.findLast(isWhole)
  if (!newest) return null
  const whole = bars.flatMap((bar, at) => (bar.stretch === newest.stretch && isWhole(bar) ? [at] : []))
  const last = new Set(whole.slice(-count))
  return across(bars, newest.stretch, (at) => last.has(at))
}

const isWhole = ({ stretch, bar, sounded }: TapeBar) =>
  sounded >= 1 && startOfBar(bar, stretch.barTicks) >= stretch.fromTick

function across(
  bars: readonly TapeBar[],
  stretch: TapeStretch,
  isMeant: (at: number) => boolean,
): ChosenBars | null {
  const meant = bars.flatMap((bar, at) =>
    isMeant(at) && bar.stretch === stretch && isWhole(bar) ? [{ bar: bar.bar, at }] : [],
  )
  const [first, last] = [meant[0], meant.at(-1)]
  if (!first || !last) return null
  return { stretch, first: first.bar, end: last.bar + 1, from: first.at, to: last.at + 1 }
}

/** Which bars of those on show are meant. Positions count the bars on show, from 0. */
import { startOfBar } from '@/sound/time'
import type { TapeBar, TapeStretch } from '@/sound/tape'

export interface ChosenBars {
  /** What sounded one after the other without a break, the oldest first. */
  readonly stretches: readonly TapeStretch[]
  /** From the bar `first` of the first stretch up to the bar `end` of the last. */
  readonly first: number
  readonly end: number
  /** The same as positions on show. */
  readonly from: number
  readonly to: number
}

/** What a drag from one bar to another means: whole bars that sounded, as far as there was no break where it began. */
export function draggedBars(bars: readonly TapeBar[], from: number, to: number): ChosenBars | null {
  const began = Math.min(Math.max(0, from), bars.length - 1)
  if (!bars[began]) return null
  let [first, last] = [began, began]
  const [low, high] = [Math.min(from, to), Math.max(from, to)]
  while (first > Math.max(0, low) && isGoingOn(bars, first)) first--
  while (last < Math.min(high, bars.length - 1) && isGoingOn(bars, last + 1)) last++
  return between(bars, Math.max(first, low), Math.min(last, high))
}

/** The last `count` whole bars, back to the last break. */
export function lastWholeBars(bars: readonly TapeBar[], count: number): ChosenBars | null {
  const last = bars.findLastIndex(isWhole)
  if (last < 0) return null
  let first = last
  for (let left = count - 1; left > 0 && first > 0 && isGoingOn(bars, first);) {
    first--
    if (isWhole(bars[first] as TapeBar)) left--
  }
  return between(bars, first, last)
}

const isWhole = ({ stretch, bar, sounded }: TapeBar) =>
  sounded >= 1 && startOfBar(bar, stretch.barTicks) >= stretch.fromTick
/** Whether a bar went on from the one before it, in its stretch or over a switch. */
const isGoingOn = (bars: readonly TapeBar[], at: number): boolean => {
  const [before, now] = [bars[at - 1]?.stretch, bars[at]?.stretch]
  return before === now || Boolean(now?.follows)
}

/** From the first whole bar to the last one between two positions. */
function between(bars: readonly TapeBar[], from: number, to: number): ChosenBars | null {
  const whole = bars.flatMap((bar, at) => (at >= from && at <= to && isWhole(bar) ? [at] : []))
  const [first, last] = [whole[0], whole.at(-1)]
  if (first === undefined || last === undefined) return null
  const chosen = bars.slice(first, last + 1)
  return {
    stretches: [...new Set(chosen.map(({ stretch }) => stretch))],
    first: (chosen[0] as TapeBar).bar,
    end: (chosen.at(-1) as TapeBar).bar + 1,
    from: first,
    to: last + 1,
  }
}

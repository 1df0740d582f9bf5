/** Bars that are to be kept once they have sounded. */
import { barsFrom } from '@/sound/time'
import type { TapeStretch } from '@/sound/tape'

export interface Ahead {
  readonly stretch: TapeStretch
  /** Bars of the pattern: from `first` up to `end`. */
  readonly first: number
  readonly end: number
}

/** The next `bars` bars of a stretch that runs: from the next bar line on, or from its beginning if it is about to begin. */
export function aheadOf(stretch: TapeStretch, bars: number): Ahead {
  const [first, end] = barsFrom(stretch.nowTick, bars, stretch.barTicks)
  return { stretch, first, end }
}

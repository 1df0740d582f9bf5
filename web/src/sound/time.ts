/** From ticks to seconds on the audio clock, by one function, across changes of tempo; and from ticks to bars and beats. */

import type { Schemas } from '@/api/client'

export const TICKS_PER_QUARTER = 13440

/** Ticks in a bar, to ask for the right window before the engine has said how long its bars are. */
export const ticksOfBar = ({ numerator, denominator }: Schemas['Meter']): number =>
  (numerator * 4 * TICKS_PER_QUARTER) / denominator

// Bars and beats are counted from 0.
export const barOf = (tick: number, barTicks: number): number => Math.floor(tick / barTicks)
/** The first bar that begins at or after `tick`. */
export const barFrom = (tick: number, barTicks: number): number => Math.ceil(tick / barTicks)
export const startOfBar = (bar: number, barTicks: number): number => bar * barTicks
/** How much of a bar has gone by at `tick`, 0 to 1. */
export const shareOfBar = (tick: number, bar: number, barTicks: number): number =>
  Math.min(1, tick / barTicks - bar)
/** The tick so many bars before `tick`. */
export const barsBefore = (tick: number, bars: number, barTicks: number): number => tick - bars * barTicks
/** The beat that a tick lies in, within its bar. */
export const beatOf = (tick: number, barTicks: number, beatTicks: number): number =>
  Math.floor((tick % barTicks) / beatTicks)

/** From `tick` on, at `time` seconds, one tick lasts `secondsPerTick`. */
interface Stretch {
  readonly tick: number
  readonly time: number
  readonly secondsPerTick: number
}

export const secondsPerTick = (tempo: number): number => 60 / tempo / TICKS_PER_QUARTER

/** Where a pattern that plays is in time. */
export class TimeLine {
  #stretches: Stretch[]

  constructor(tick: number, time: number, tempo: number) {
    this.#stretches = [{ tick, time, secondsPerTick: secondsPerTick(tempo) }]
  }

  /** Go on at another tempo from `tick` on; ticks before it keep their times. */
  changeTempo(tick: number, tempo: number) {
    const time = this.timeOf(tick)
    const before = this.#stretches.filter((stretch) => stretch.tick < tick).slice(-4)
    this.#stretches = [...before, { tick, time, secondsPerTick: secondsPerTick(tempo) }]
  }

  timeOf(tick: number): number {
    const at = this.#last((stretch) => stretch.tick <= tick)
    return at.time + (tick - at.tick) * at.secondsPerTick
  }

  /** The exact position at `time` seconds; a fraction of a tick is possible. */
  tickAt(time: number): number {
    const at = this.#last((stretch) => stretch.time <= time)
    return at.tick + (time - at.time) / at.secondsPerTick
  }

  #last(is: (stretch: Stretch) => boolean): Stretch {
    return this.#stretches.findLast(is) ?? (this.#stretches[0] as Stretch)
  }
}

/** The first bar of the page that shows `bar`, where a page has so many bars. */
export const pageOf = (bar: number, bars: number): number => Math.floor(bar / bars) * bars

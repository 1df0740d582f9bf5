/** From ticks to seconds on the audio clock, by one function, across changes of tempo. */

import type { Schemas } from '@/api/client'

export const TICKS_PER_QUARTER = 13440

/** Ticks in a bar, to ask for the right window before the engine has said how long its bars are. */
export const ticksOfBar = ({ numerator, denominator }: Schemas['Meter']): number =>
  (numerator * 4 * TICKS_PER_QUARTER) / denominator

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

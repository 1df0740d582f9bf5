/** From ticks to seconds on the audio clock, by one function, across changes of tempo; and from ticks to bars and beats. */

import type { Schemas } from '@/api/client'

export const TICKS_PER_QUARTER = 13440

/** Ticks in a bar, to ask for the right window before the engine has said how long its bars are. */
export const ticksOfBar = ({ numerator, denominator }: Schemas['Meter']): number =>
  (numerator * 4 * TICKS_PER_QUARTER) / denominator

export const ticksOfBeat = (meter: Schemas['Meter']): number => ticksOfBar(meter) / meter.numerator

// Bars and beats are counted from 0.
export const barOf = (tick: number, barTicks: number): number => Math.floor(tick / barTicks)
/** The first bar that begins at or after `tick`. */
export const barFrom = (tick: number, barTicks: number): number => Math.ceil(tick / barTicks)
export const startOfBar = (bar: number, barTicks: number): number => bar * barTicks
/**
 * The last pass of so many bars that lies whole between two ticks; where none does, as many whole bars as there are, the
 * last ones. Null: not one bar does.
 */
export function wholeBars(from: number, upTo: number, barTicks: number, passBars: number) {
  const [earliest, latest] = [barFrom(from, barTicks), barOf(upTo, barTicks)]
  const end = Math.floor(latest / passBars) * passBars
  if (end - passBars >= earliest) return { first: end - passBars, end }
  return latest > earliest ? { first: earliest, end: latest } : null
}
/** The start of the bar so many bars after the one that `tick` lies in. */
export const barAfter = (tick: number, bars: number, barTicks: number): number =>
  startOfBar(barOf(tick, barTicks) + bars, barTicks)
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
/** The bar so many bars later (negative: earlier); none is before the first. */
export const barsOn = (bar: number, by: number): number => Math.max(0, bar + by)
/** Ticks from when play was pressed to the tick 0 of what plays from `fromTick` on, after `tick` of what `began` before. */
export const elapsed = (began: number, tick: number, fromTick: number): number => began + tick - fromTick
/** The tick of what `began` so many ticks after play was pressed, when `ticks` have passed since then. */
export const sinceThen = (ticks: number, began: number): number => ticks - began
/** The tempo that brings the music from `at` to `ticks` within about a beat: at most a fifth faster or slower. */
export function steered(tempo: number, ticks: number, at: number): number {
  const off = (ticks - at) / TICKS_PER_QUARTER
  return tempo * (1 + Math.max(-0.2, Math.min(0.2, off)))
}
/** Where in something that goes round every `length` ticks a tick lies. */
export const wrapped = (tick: number, length: number): number => {
  const rest = tick % length
  return rest < 0 ? rest + length : rest // exact: nothing is added where nothing has to be
}
/** A tick that counted from `from` on, where all of that now counts from `to` on. */
export const postponed = (tick: number, from: number, to: number): number =>
  tick >= from ? tick + (to - from) : tick
/** How many bars last at least so many seconds. */
export const barsLasting = (seconds: number, tempo: number, barTicks: number): number =>
  Math.ceil(seconds / secondsPerTick(tempo) / barTicks)

/** The beats of so many bars, in seconds after the first; where they end; and how many there are in a bar. */
export function beatsOf(bars: number, barTicks: number, beatTicks: number, tempo: number) {
  const beat = beatTicks * secondsPerTick(tempo)
  const times = Array.from({ length: Math.ceil((bars * barTicks) / beatTicks) }, (_, at) => at * beat)
  return { times, end: bars * barTicks * secondsPerTick(tempo), inBar: barTicks / beatTicks }
}

/** By how much faster something sounds that is so many semitones higher. */
export const paceOf = (semitones: number): number => 2 ** (semitones / 12)
export const tuned = (semitones: number, by: number): number => semitones + by

/** A place in time as people count: bar, beat, and ticks into the beat. */
export function placeSaid(tick: number, meter: Required<Schemas['Meter']>): string {
  const bar = ticksOfBar(meter)
  const beat = bar / meter.numerator
  return `${barOf(tick, bar) + 1}:${beatOf(tick, bar, beat) + 1}:${(tick % beat) + 1}`
}
/** The tick of "bar:beat:tick" as `placeSaid` says it; beat and tick may be left out. Null if it is none. */
export function placeRead(said: string, meter: Required<Schemas['Meter']>): number | null {
  const parts = said.trim().split(/[:.]/).map(Number)
  if (!parts.length || parts.length > 3 || parts.some((part) => !Number.isInteger(part) || part < 1))
    return null
  const [bar = 1, beat = 1, tick = 1] = parts
  return (
    startOfBar(bar - 1, ticksOfBar(meter)) + ((beat - 1) * ticksOfBar(meter)) / meter.numerator + tick - 1
  )
}
/** Bars as people count them. */
export const barsSaid = (first: number, bars: number): string =>
  bars === 1 ? `bar ${first + 1}` : `bars ${first + 1}–${first + bars}`
/** Of several the one whose ticks are nearest to `ticks`, of equals the earlier; undefined of none. */
export const nearestOf = <One>(
  all: readonly One[],
  ticks: number,
  ticksOf: (one: One) => number,
): One | undefined => {
  const apart = (one: One) => Math.abs(ticksOf(one) - ticks)
  return all.reduce<One | undefined>(
    (near, one) => (near && apart(near) <= apart(one) ? near : one),
    undefined,
  )
}
/** The `bars` bars that begin at or after `tick`: the first, and the one after the last. */
export function barsFrom(tick: number, bars: number, barTicks: number): [first: number, end: number] {
  const first = barFrom(tick, barTicks)
  return [first, first + bars]
}
/** Whether a tick lies inside of `length` ticks from `first` on, not at its ends. */
export const isWithin = (tick: number, first: number, length: number): boolean =>
  tick > first && tick < first + length
/** How long so many quarters last, in seconds. */
export const secondsOf = (quarters: number, tempo: number): number => (quarters * 60) / tempo
/** The tick that is reached `seconds` after `tick`. */
export const tickAfter = (tick: number, seconds: number, tempo: number): number =>
  tick + seconds / secondsPerTick(tempo)
/** How many whole ticks lie between, at least one: no note is shorter. */
export const lengthUntil = (start: number, end: number): number => Math.max(1, Math.round(end - start))
export const byTick = (one: { readonly tick: number }, other: { readonly tick: number }): number =>
  one.tick - other.tick

/** The MIDI clock: 24 pulses a quarter, and a song position in sixteenths. */
const PULSES = 24
export const ticksOfPulse = (pulses: number): number => (pulses * TICKS_PER_QUARTER) / PULSES
/** The first sixteenth that begins at or after a tick. */
export const sixteenthsAt = (tick: number): number => Math.ceil((tick * 4) / TICKS_PER_QUARTER - 1e-9)
export const pulsesAfter = (sixteenths: number): number => (sixteenths * PULSES) / 4
/** Quarters a minute, where a pulse lasts so many seconds. */
export const tempoOfPulses = (seconds: number): number => 60 / (PULSES * seconds)
/** How long a pulse lasts, in seconds, at so many quarters a minute. */
export const secondsOfPulse = (tempo: number): number => 60 / (PULSES * tempo)

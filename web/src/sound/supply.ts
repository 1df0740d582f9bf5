/** What lies ready to be given to the ports, and what was given: notes and controls that the engine has answered. */
import { controlsOf, notesOf, type Ready, type ReadyControl, type Sounds } from './prepared'
import { barsBefore, byTick, startOfBar, wholeBars, wrapped } from './time'

type IsLane = (laneId: string) => boolean
type Item = Ready | ReadyControl

/** Bars of what was given that are remembered: as long as a pattern may be. */
const BARS_REMEMBERED = 64

/** Bars of the pattern, from `first` up to `end`. */
export interface Bars {
  readonly first: number
  readonly end: number
}

/** What loops: from the tick `first` on, for so many ticks. */
interface LoopedPass {
  readonly bars: Bars
  readonly first: number
  readonly length: number
  readonly items: readonly Item[]
}

/** What is known from one tick up to another. */
export interface ReadyItems {
  readonly from: number
  readonly upTo: number
  readonly items: readonly Item[]
}

export class Supply {
  #notes: Ready[] = []
  #controls: ReadyControl[] = []
  /** What was given, as it was answered, in the order of time. */
  #given: Item[] = []
  #givenUpTo = 0
  #loop: LoopedPass | null = null
  /** From which tick on all is known, and up to which. */
  #from = 0
  upTo = 0

  begin(tick: number) {
    this.clear()
    this.#given = []
    this.#loop = null
    this.#from = this.#givenUpTo = this.upTo = tick
  }
  /** Forget what has not been given, from a tick on. */
  clear(from = 0) {
    this.#notes = this.#notes.filter(({ start }) => start < from)
    this.#controls = this.#controls.filter(({ tick }) => tick < from)
  }

  /** Add what was answered, from the tick `from` on, but for lanes that are silent. */
  add(sounds: Sounds, from: number, isSilent: IsLane) {
    const controls = controlsOf(sounds.controls, sounds)
    const isWanted = (at: number, laneId: string) =>
      at >= from && at < (sounds.ends ?? Infinity) && !isSilent(laneId)
    this.#controls = [...this.#controls, ...controls.filter(({ tick, laneId }) => isWanted(tick, laneId))]
    this.#notes = [...this.#notes, ...notesOf(sounds).filter(({ start, laneId }) => isWanted(start, laneId))]
    this.#loop = null
    this.upTo = Math.min(sounds.end_tick, sounds.ends ?? Infinity)
    const oldest = barsBefore(this.#givenUpTo, BARS_REMEMBERED, sounds.bar_ticks)
    this.#given = this.#given.filter((one) => beginOf(one) >= oldest)
    this.#from = Math.max(this.#from, oldest)
  }
  /** Add controls that come before all others of their tick. */
  addFirst(controls: readonly ReadyControl[]) {
    this.#controls = [...controls, ...this.#controls].sort(byTick)
  }
  drop(isGone: IsLane) {
    const stays = ({ laneId }: { laneId: string }) => !isGone(laneId)
    this.#notes = this.#notes.filter(stays)
    this.#controls = this.#controls.filter(stays)
    this.#given = this.#given.filter(stays)
    if (this.#loop) this.#loop = { ...this.#loop, items: this.#loop.items.filter(stays) }
  }

  notesBefore = (tick: number): Ready[] => this.#notes.filter(({ start }) => start < tick)

  /** Take out what begins before `tick`; a controller moves before the note that it is for begins. */
  take(tick: number): Item[] {
    const controls = splitOff(this.#controls, (one) => one.tick >= tick)
    const notes = splitOff(this.#notes, ({ start }) => start >= tick)
    const given = [...controls, ...notes].sort((one, other) => beginOf(one) - beginOf(other))
    if (!this.#loop) this.#given.push(...given)
    this.#givenUpTo = Math.max(this.#givenUpTo, tick)
    return given
  }

  /** All that is known of the music, to be played again from where nothing else can be had. */
  known(): ReadyItems {
    return { from: this.#from, upTo: this.upTo, items: [...this.#given, ...this.#controls, ...this.#notes] }
  }
  /** Begin with what was known before, from the tick `from` on. */
  beginWith({ from, upTo, items }: ReadyItems, tick: number) {
    this.begin(tick)
    const ahead = items.filter((one) => beginOf(one) >= tick)
    this.#given = items.filter((one) => beginOf(one) < tick)
    for (const one of ahead)
      if ('start' in one) this.#notes.push(one)
      else this.#controls.push(one)
    this.#notes.sort((one, other) => one.start - other.start)
    this.#controls.sort(byTick)
    this.#from = from
    this.upTo = upTo
  }

  /**
   * Nothing more can be had: go on with the last whole pass of `passBars` that is known, once more from where it lies in
   * its pass, or, where none is, with as many whole bars as are; with the same until something is added. Returns the bars
   * that loop; null: not one is known.
   */
  repeatLastPass(passBars: number, barTicks: number): Bars | null {
    this.#loop ??= this.#lastPass(passBars, barTicks)
    if (!this.#loop) return null
    const { bars, first, length, items } = this.#loop
    const source = first + wrapped(this.upTo - first, length)
    const shift = this.upTo - source
    const later = (place: number) => place + shift
    for (const one of items.filter((it) => placeOf(it) >= source))
      if ('tick' in one) this.#controls.push({ ...one, tick: later(one.tick) })
      else this.#notes.push({ ...one, start: later(one.start), straight: later(one.straight) })
    this.upTo = later(first + length)
    return bars
  }
  #lastPass(passBars: number, barTicks: number): LoopedPass | null {
    const bars = wholeBars(this.#from, this.upTo, barTicks, passBars)
    if (!bars) return null
    const first = startOfBar(bars.first, barTicks)
    const end = startOfBar(bars.end, barTicks)
    const all = [...this.#given, ...this.#controls, ...this.#notes]
    const items = all.filter((one) => placeOf(one) >= first && placeOf(one) < end)
    return { bars, first, length: end - first, items: items.sort((one, other) => beginOf(one) - beginOf(other)) } // prettier-ignore
  }
}

const beginOf = (one: Item) => ('start' in one ? one.start : one.tick)
/** Where it belongs: a note that strays to the bar of its step. */
const placeOf = (one: Item) => ('start' in one ? one.straight : one.tick)

function splitOff<One>(all: One[], isLater: (one: One) => boolean): One[] {
  const end = all.findIndex(isLater)
  return all.splice(0, end < 0 ? all.length : end)
}

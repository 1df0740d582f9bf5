/** Notes as MIDI messages to an instrument: handed over just ahead of their times, and each of them ended. */
import { BEND, neutral, PRESSURE } from '../neutral'
import type { Choosing, Clock, Move, Port, Sounding, Strike } from '../port'
import {
  ALL_NOTES_OFF, ALL_SOUND_OFF, control, moved, noteOff, noteOn, programChange, SUSTAIN, type Message,
} from './messages' // prettier-ignore

/** An instrument that takes messages. `time`: when one is to be obeyed, in seconds on the audio clock. */
export interface Instrument {
  /** @throws Error if it cannot take the message. */
  send(message: Message, time: number): void
}

/** Seconds that messages are handed over ahead of their times. What is handed over cannot be withdrawn. */
export const HANDED_AHEAD = 0.08
/** Seconds by which the audio clock leaps: what is handed over at once is not late by that. */
const BLOCK = 0.003
const MOST_WAITING = 20_000
const MODULATION = 1
const LET_GO = new Set([MODULATION, SUSTAIN, PRESSURE, BEND])
const CHANNELS = 16

/** At one time notes end first, then controllers move, then notes begin. */
const [OFF, MOVE, ON] = [0, 1, 2]
interface Waiting {
  readonly time: number
  readonly order: number
  readonly message: Message
  readonly note: Note | null
}
/** `on`, `off`: whether the message was handed over, and for what time. */
interface Note {
  readonly channel: number
  readonly pitch: number
  on: number | null
  off: number | null
}

export class MidiPort implements Port {
  /** Messages that were handed over after their times, and all that were. */
  late = 0
  handed = 0
  /** In the order of time. */
  #waiting: Waiting[] = []
  /** Notes that were begun and not ended. */
  readonly #sounding = new Set<Note>()
  /** By channel and controller: what hands on an instrument would let go of stands somewhere. */
  readonly #touched = new Map<string, { channel: number; controller: number }>()

  /** `onTrouble`: told why a message was not taken. Those that end notes are tried again until they are. */
  constructor(
    private readonly clock: Clock,
    private readonly instrument: Instrument,
    private readonly onTrouble: (reason: unknown) => void = () => undefined,
  ) {}

  /** How many notes sound now, as far as messages go. */
  get sounding(): number {
    return this.#sounding.size
  }

  strike({ channel, pitch, velocity, time, end }: Strike): Sounding {
    const note: Note = { channel, pitch, on: null, off: null }
    this.#wait(time, ON, noteOn(channel, pitch, velocity), note)
    this.#wait(Math.max(end, time), OFF, noteOff(channel, pitch), note)
    this.tick()
    const cut = (at: number) => this.#cut(note, Math.max(at, time))
    return { cut: (at) => (note.on === null && at <= time ? this.#withdraw(note) : cut(at)), letGo: cut }
  }

  move({ channel, controller, value, time }: Move) {
    const key = `${channel} ${controller}`
    if (value === neutral(controller)) this.#touched.delete(key)
    else if (LET_GO.has(controller)) this.#touched.set(key, { channel, controller })
    this.#wait(time, MOVE, moved(channel, controller, value))
    this.tick()
  }

  choose({ channel, program, time }: Choosing) {
    for (const message of programChange(channel, program.number, program.bank ?? null))
      this.#wait(time, MOVE, message)
    this.tick()
  }

  /** A message of the clock or the transport. */
  tell(message: Message, time: number) {
    this.#wait(time, MOVE, message)
    this.tick()
  }

  /** Hand over what is due. To be called several times in HANDED_AHEAD. */
  tick() {
    const upTo = this.clock.now() + HANDED_AHEAD
    let due = 0
    while ((this.#waiting[due]?.time ?? Infinity) <= upTo) due++
    if (due) this.#waiting.splice(0, due).forEach((one) => this.#hand(one))
  }

  /** Hand over now what ends the notes that sound, each for its time: nobody may look after them for a while. */
  secure() {
    const ends = this.#waiting.filter(({ note, order }) => order === OFF && note?.on !== null)
    this.#waiting = this.#waiting.filter((one) => !ends.includes(one))
    ends.forEach((one) => this.#hand(one))
  }

  silence() {
    const now = this.clock.now()
    this.#waiting = []
    for (const note of [...this.#sounding]) this.#end(note, Math.max(now, note.on ?? now))
    this.rest()
  }
  /** As hands that leave the instrument: no pedal is down, nothing is bent or pressed. */
  rest() {
    for (const { channel, controller } of this.#touched.values())
      this.#wait(this.clock.now(), MOVE, moved(channel, controller, neutral(controller)))
    this.#touched.clear()
    this.tick()
  }
  /** Whatever may sound there, from whomever: every channel is told to be silent. */
  panic() {
    this.silence()
    const now = this.clock.now()
    for (let channel = 1; channel <= CHANNELS; channel++)
      for (const number of [SUSTAIN, ALL_NOTES_OFF, ALL_SOUND_OFF])
        this.#wait(now, MOVE, control(channel, number, 0))
    this.tick()
  }

  #wait(time: number, order: number, message: Message, note: Note | null = null) {
    const one = { time, order, message, note }
    const isBefore = (other: Waiting) => other.time < time || (other.time === time && other.order <= order)
    this.#waiting.splice(this.#waiting.findLastIndex(isBefore) + 1, 0, one)
    // An instrument that takes nothing any more is owed no more than what ends its notes.
    if (this.#waiting.length > MOST_WAITING)
      this.#waiting = this.#waiting.filter(({ order, note }) => order === OFF && note?.on !== null)
  }

  #withdraw(note: Note) {
    this.#waiting = this.#waiting.filter((one) => one.note !== note)
  }

  #cut(note: Note, time: number) {
    if (note.off !== null && note.off <= time) return
    this.#waiting = this.#waiting.filter((one) => one.note !== note || one.order === ON)
    this.#end(note, time)
  }

  #end(note: Note, time: number) {
    this.#wait(Math.max(time, this.clock.now()), OFF, noteOff(note.channel, note.pitch), note)
    this.tick()
  }

  #hand(one: Waiting) {
    const { time, order, message, note } = one
    const now = this.clock.now()
    try {
      this.instrument.send(message, Math.max(time, now))
    } catch (reason) {
      this.onTrouble(reason)
      // What never began need not end; what sounds must.
      if (note && order === ON) this.#withdraw(note)
      else if (note && order === OFF && note.on !== null) this.#wait(now + HANDED_AHEAD, OFF, message, note)
      return
    }
    this.handed++
    if (time < now - BLOCK) this.late++
    if (!note) return
    if (order === ON) {
      note.on = Math.max(time, now)
      this.#sounding.add(note)
    } else {
      note.off = Math.max(time, now)
      this.#sounding.delete(note)
    }
  }
}

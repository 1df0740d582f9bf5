/** MIDI messages as bytes. Source: MIDI 1.0. Channels as musicians count, from 1. */
import { BEND, PRESSURE } from '../neutral'

export type Message = readonly number[]

export const NOTE_OFF = 0x80
export const NOTE_ON = 0x90
export const KEY_PRESSURE = 0xa0
export const CONTROL = 0xb0
export const PROGRAM = 0xc0
export const CHANNEL_PRESSURE = 0xd0
export const PITCH_BEND = 0xe0
export const SYSTEM = 0xf0
export const SONG_POSITION = 0xf2
export const CLOCK = 0xf8
export const START = 0xfa
export const CONTINUE = 0xfb
export const STOP = 0xfc
export const ACTIVE_SENSING = 0xfe

export const SUSTAIN = 64
export const ALL_SOUND_OFF = 120
export const ALL_NOTES_OFF = 123
const [BANK, BANK_LOW] = [0, 32]
const MIDDLE = 8192

const status = (kind: number, channel: number) => kind | (channel - 1)
export const noteOn = (channel: number, pitch: number, velocity: number): Message => [
  status(NOTE_ON, channel),
  pitch,
  velocity,
]
export const noteOff = (channel: number, pitch: number): Message => [status(NOTE_OFF, channel), pitch, 0]
export const control = (channel: number, number: number, value: number): Message => [
  status(CONTROL, channel),
  number,
  value,
]

/** What moves a controller; bend and pressure are messages of their own. */
export function moved(channel: number, controller: number, value: number): Message {
  if (controller === PRESSURE) return [status(CHANNEL_PRESSURE, channel), value]
  if (controller !== BEND) return control(channel, controller, value)
  const bent = value + MIDDLE
  return [status(PITCH_BEND, channel), bent & 127, bent >> 7]
}
/** What a message moves: the controller and its value; null where it moves none. */
export function movedBy(message: Message): { controller: number; value: number } | null {
  const [first = 0, one = 0, two = 0] = message
  switch (kindOf(first)) {
    case CONTROL:
      return { controller: one, value: two }
    case CHANNEL_PRESSURE:
      return { controller: PRESSURE, value: one }
    case PITCH_BEND:
      return { controller: BEND, value: one + (two << 7) - MIDDLE }
  }
  return null
}

/** What has an instrument choose one of its sounds: the bank first, in two halves. */
export function programChange(channel: number, program: number, bank: number | null): Message[] {
  const banks =
    bank === null ? [] : [control(channel, BANK, bank >> 7), control(channel, BANK_LOW, bank & 127)]
  return [...banks, [status(PROGRAM, channel), program - 1]]
}
/** Where the music goes on, in sixteenths from its beginning. */
export const songPosition = (sixteenths: number): Message => [
  SONG_POSITION,
  sixteenths & 127,
  (sixteenths >> 7) & 127,
]

export const kindOf = (first: number): number => (first >= SYSTEM ? first : first & 0xf0)
export const channelOf = (message: Message): number | null => {
  const first = message[0] ?? 0
  return first >= SYSTEM ? null : (first & 15) + 1
}
export const isNoteOn = (message: Message): boolean =>
  kindOf(message[0] ?? 0) === NOTE_ON && (message[2] ?? 0) > 0
export const isNoteOff = (message: Message): boolean => {
  const kind = kindOf(message[0] ?? 0)
  return kind === NOTE_OFF || (kind === NOTE_ON && message[2] === 0)
}

/** How many data bytes follow a status byte; null: as many as come before the next status byte. */
function dataBytes(first: number): number | null {
  const kind = kindOf(first)
  if (kind === PROGRAM || kind === CHANNEL_PRESSURE || first === 0xf1 || first === 0xf3) return 1
  if (kind < SYSTEM || first === SONG_POSITION) return 2
  return first === SYSTEM ? null : 0
}

/**
 * Whole messages out of bytes as they come: running status is filled in, real-time messages may come in the midst of
 * others, system exclusive ones are passed over, what is cut short is dropped and counted.
 */
export class Reader {
  /** Messages that were cut short, and bytes that belong to none. */
  broken = 0
  #status = 0
  #data: number[] = []

  read(bytes: ArrayLike<number>): Message[] {
    const messages: Message[] = []
    for (const byte of Array.from(bytes)) {
      if (byte >= CLOCK) {
        messages.push([byte])
        continue
      }
      if (byte >= 0x80) {
        if (this.#data.length && this.#status !== SYSTEM) this.broken++
        // What ends a system exclusive message is no message of its own.
        this.#status = byte === 0xf7 ? 0 : byte
        this.#data = []
      } else if (this.#status === SYSTEM) continue
      else if (!this.#status) {
        this.broken++
        continue
      } else this.#data.push(byte)
      const needed = dataBytes(this.#status)
      if (!this.#status || needed === null || this.#data.length < needed) continue
      messages.push([this.#status, ...this.#data])
      this.#data = []
      if (this.#status >= SYSTEM) this.#status = 0 // no running status for these
    }
    return messages
  }
}

const NAMES: Readonly<Record<number, string>> = {
  [NOTE_OFF]: 'note off',
  [NOTE_ON]: 'note on',
  [KEY_PRESSURE]: 'key pressure',
  [CONTROL]: 'controller',
  [PROGRAM]: 'program',
  [CHANNEL_PRESSURE]: 'pressure',
  [PITCH_BEND]: 'bend',
  [SONG_POSITION]: 'song position',
  [CLOCK]: 'clock',
  [START]: 'start',
  [CONTINUE]: 'continue',
  [STOP]: 'stop',
}
/** What a message is called. */
export const nameOf = (message: Message): string => {
  const first = message[0] ?? 0
  return isNoteOff(message) ? 'note off' : (NAMES[kindOf(first)] ?? 'system')
}

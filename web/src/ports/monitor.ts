/** What a monitor shows of messages: in words, and where in its picture they lie. */
import { controllerName, BEND, PRESSURE } from '@/sound/neutral'
import {
  channelOf, CLOCK, isNoteOff, isNoteOn, kindOf, movedBy, nameOf, PROGRAM, SYSTEM, type Message,
} from '@/sound/midi/messages' // prettier-ignore
import type { ReceivedMessage } from '@/sound/midi/instrument'

export const FILTERS = ['notes', 'controllers', 'bend', 'pressure', 'program', 'clock'] as const
export type Filter = (typeof FILTERS)[number]

export function filterOf(message: Message): Filter {
  if (isNoteOn(message) || isNoteOff(message)) return 'notes'
  const move = movedBy(message)
  if (move)
    return move.controller === BEND ? 'bend' : move.controller === PRESSURE ? 'pressure' : 'controllers'
  return kindOf(message[0] ?? 0) === PROGRAM ? 'program' : 'clock'
}

/** What a message says beside its name. */
export function saidOf(message: Message, nameOfPitch: (pitch: number) => string): string {
  const [first = 0, one = 0, two = 0] = message
  if (isNoteOn(message)) return `${nameOfPitch(one)} (${one}), velocity ${two}`
  if (isNoteOff(message)) return `${nameOfPitch(one)} (${one})`
  const move = movedBy(message)
  if (move)
    return move.controller >= PRESSURE ? `${move.value}` : `${controllerName(move.controller)} ${move.value}`
  if (kindOf(first) === PROGRAM) return `${one + 1}`
  return message.length > 1 ? `${one + two * 128} sixteenths` : ''
}

export interface Line {
  readonly key: number
  readonly time: string
  readonly channel: string
  readonly name: string
  readonly says: string
  readonly filter: Filter
}
/** The last `count` of `taken`, the newest first; pulses of the clock in a row are one line. */
export function linesOf(
  taken: readonly ReceivedMessage[],
  count: number,
  nameOfPitch: (pitch: number) => string,
): Line[] {
  const lines: Line[] = []
  let pulses = 0
  for (let at = taken.length - 1; at >= 0 && lines.length < count; at--) {
    const { message, time } = taken[at] as ReceivedMessage
    const isPulse = message[0] === CLOCK
    if (isPulse && pulses++) continue
    if (!isPulse) pulses = 0
    lines.push({
      key: at,
      time: time.toFixed(3),
      channel: (message[0] ?? 0) >= SYSTEM ? '' : `${channelOf(message)}`,
      name: nameOf(message),
      says: saidOf(message, nameOfPitch),
      filter: filterOf(message),
    })
  }
  return lines
}

/** A note in the picture, or a moment of something else; times in seconds. `end`: null while it sounds. */
export interface Drawn {
  readonly filter: Filter
  readonly channel: number
  readonly start: number
  readonly end: number | null
  /** How high it lies, 0 to 1. */
  readonly share: number
}
export function drawnOf(taken: readonly ReceivedMessage[], from: number): Drawn[] {
  const drawn: Drawn[] = []
  const open = new Map<string, { channel: number; start: number; share: number }>()
  const byTime = [...taken].sort((one, other) => one.time - other.time)
  for (const { message, time } of byTime) {
    const channel = channelOf(message) ?? 0
    const key = `${channel} ${message[1]}`
    const began = open.get(key)
    if ((isNoteOn(message) || isNoteOff(message)) && began) {
      open.delete(key)
      if (time >= from) drawn.push({ filter: 'notes', ...began, end: time })
    }
    if (isNoteOn(message)) open.set(key, { channel, start: time, share: (message[1] ?? 0) / 127 })
    else if (!isNoteOff(message) && time >= from) {
      const move = movedBy(message)
      const share = !move ? 0 : move.controller === BEND ? (move.value + 8192) / 16383 : move.value / 127
      drawn.push({ filter: filterOf(message), channel, start: time, end: time, share })
    }
  }
  for (const one of open.values()) drawn.push({ filter: 'notes', ...one, end: null })
  return drawn
}

const NARROWEST = 24 / 127
/** Notes as far apart as there is room for those that are there. */
export function spread(drawn: readonly Drawn[]): Drawn[] {
  const shares = drawn.flatMap(({ filter, share }) => (filter === 'notes' ? share : []))
  const [low, high] = [Math.min(...shares), Math.max(...shares)]
  const room = Math.max(NARROWEST, high - low)
  const from = (low + high - room) / 2
  return drawn.map((one) => (one.filter === 'notes' ? { ...one, share: (one.share - from) / room } : one))
}

/** What is of one kind and channel in one stroke: thousands of notes are a few paths. */
export function pathsOf(drawn: readonly Drawn[], pathOf: (one: Drawn) => string) {
  const paths = new Map<string, { filter: Filter; channel: number; path: string[] }>()
  for (const one of drawn) {
    const key = `${one.filter} ${one.channel}`
    const line = paths.get(key) ?? { filter: one.filter, channel: one.channel, path: [] }
    line.path.push(pathOf(one))
    paths.set(key, line)
  }
  return [...paths.values()].map(({ path, ...of }) => ({ ...of, path: path.join('') }))
}

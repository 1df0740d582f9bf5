/** A simulated MIDI keyboard: it sends the messages of one, played by hand or from a recorded phrase. */

import {
  control,
  isNoteOff,
  isNoteOn,
  movedBy,
  noteOff,
  noteOn,
  SUSTAIN,
  type Message,
} from '@/sound/midi/messages'
import { secondsOf } from '@/sound/time'

/** When something happened, as events say it: milliseconds since the page was opened. */
export interface Stamped {
  readonly timeStamp: number
}

/** What is played on a keyboard. */
export interface KeyHandler {
  down(key: number, velocity?: number, event?: Stamped): void
  up(key: number, event?: Stamped): void
  sustain(isDown: boolean, event?: Stamped): void
}

/** Give a message to what plays. What it knows nothing of is passed over. */
export function heed(message: Message, player: KeyHandler, event?: Stamped) {
  const [, first = 0, second = 0] = message
  if (isNoteOn(message)) player.down(first, second, event)
  else if (isNoteOff(message)) player.up(first, event)
  else if (movedBy(message)?.controller === SUSTAIN) player.sustain(second >= 64, event)
}

/** A moment of a recorded phrase: beats from its start, and what is sent. */
export type Phrase = readonly (readonly [beat: number, message: Message])[]

const chord = (from: number, to: number, ...keys: number[]): Phrase => [
  ...keys.map((key, at) => [from + at * 0.02, noteOn(1, key, 84 + 8 * at)] as const),
  ...keys.map((key) => [to, noteOff(1, key)] as const),
]

/** A phrase that was recorded on the night crossing: four chords, the last with the pedal. */
export const CROSSING: Phrase = [
  ...chord(0, 3.3, 64, 67, 71),
  ...chord(3.5, 6.8, 65, 69, 72),
  ...chord(7, 10.3, 62, 65, 69, 72),
  [10.5, control(1, SUSTAIN, 127)],
  ...chord(10.5, 11.5, 64, 67, 71),
  ...chord(12, 12.5, 76),
  [14, control(1, SUSTAIN, 0)],
]

/**
 * Play `phrase` into `player` at so many beats a minute, each message with the time at which it was due, however late
 * the page gets to it. Returns what stops it; then what is down is let go.
 */
export function replay(
  phrase: Phrase,
  beatsPerMinute: number,
  player: KeyHandler,
  ended: () => void,
): () => void {
  const down = new Set<number>()
  const heard: KeyHandler = {
    down: (key, velocity, event) => (down.add(key), player.down(key, velocity, event)),
    up: (key, event) => (down.delete(key), player.up(key, event)),
    sustain: (isDown, event) => player.sustain(isDown, event),
  }
  const ordered = [...phrase].sort(([one], [other]) => one - other)
  const last = ordered.at(-1)?.[0] ?? 0
  const begin = performance.now()
  const timers = ordered.map(([beat, message]) => {
    const delay = 1000 * secondsOf(beat, beatsPerMinute)
    return setTimeout(() => {
      heed(message, heard, { timeStamp: begin + delay })
      if (beat === last && message === ordered.at(-1)?.[1]) ended()
    }, delay)
  })
  return () => {
    timers.forEach(clearTimeout)
    down.forEach((key) => player.up(key))
    player.sustain(false)
    ended()
  }
}

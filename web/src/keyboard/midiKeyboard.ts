/** A simulated MIDI keyboard: it sends the messages of one, played by hand or from a recorded phrase. */

import { secondsOf } from '@/sound/time'

/** A message as the MIDI standard has it: status, two data bytes. */
export type MidiMessage = readonly [status: number, first: number, second: number]

const NOTE_OFF = 0x80
const NOTE_ON = 0x90
const CONTROL = 0xb0
const SUSTAIN = 64

/** When something happened, as events say it: milliseconds since the page was opened. */
export interface Stamped {
  readonly timeStamp: number
}

/** What is played on a keyboard. */
export interface Player {
  down(key: number, velocity?: number, event?: Stamped): void
  up(key: number, event?: Stamped): void
  sustain(isDown: boolean, event?: Stamped): void
}

/** Give a message to what plays. What it knows nothing of is passed over. */
export function heed([status, first, second]: MidiMessage, player: Player, event?: Stamped) {
  const kind = status & 0xf0
  if (kind === NOTE_ON && second > 0) player.down(first, second, event)
  else if (kind === NOTE_OFF || kind === NOTE_ON) player.up(first, event)
  else if (kind === CONTROL && first === SUSTAIN) player.sustain(second >= 64, event)
}

/** A moment of a recorded phrase: beats from its start, and what is sent. */
export type Phrase = readonly (readonly [beat: number, message: MidiMessage])[]

const chord = (from: number, to: number, ...keys: number[]): Phrase => [
  ...keys.map((key, at) => [from + at * 0.02, [NOTE_ON, key, 84 + 8 * at]] as const),
  ...keys.map((key) => [to, [NOTE_OFF, key, 0]] as const),
]

/** A phrase that was recorded on the night crossing: four chords, the last with the pedal. */
export const CROSSING: Phrase = [
  ...chord(0, 3.3, 64, 67, 71),
  ...chord(3.5, 6.8, 65, 69, 72),
  ...chord(7, 10.3, 62, 65, 69, 72),
  [10.5, [CONTROL, SUSTAIN, 127]],
  ...chord(10.5, 11.5, 64, 67, 71),
  ...chord(12, 12.5, 76),
  [14, [CONTROL, SUSTAIN, 0]],
]

/** Play `phrase` into `player` at so many beats a minute. Returns what stops it; then what is down is let go. */
export function replay(
  phrase: Phrase,
  beatsPerMinute: number,
  player: Player,
  ended: () => void,
): () => void {
  const down = new Set<number>()
  const heard: Player = {
    down: (key, velocity) => (down.add(key), player.down(key, velocity)),
    up: (key) => (down.delete(key), player.up(key)),
    sustain: (isDown) => player.sustain(isDown),
  }
  const ordered = [...phrase].sort(([one], [other]) => one - other)
  const last = ordered.at(-1)?.[0] ?? 0
  const timers = ordered.map(([beat, message]) =>
    setTimeout(
      () => {
        heed(message, heard)
        if (beat === last && message === ordered.at(-1)?.[1]) ended()
      },
      1000 * secondsOf(beat, beatsPerMinute),
    ),
  )
  return () => {
    timers.forEach(clearTimeout)
    down.forEach((key) => player.up(key))
    player.sustain(false)
    ended()
  }
}

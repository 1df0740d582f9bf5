/** Where notes go: the built-in sounds, the simulated instrument, an instrument of the musician's own. */
import type { Schemas } from '@/api/client'

type Voice = Schemas['Voice']

/** How a lane stands in the room. `level` in dB, `pan` from -100 (left) to 100, `room`: % that the room answers. */
export interface MixSettings {
  readonly level: number
  readonly pan: number
  readonly room: number
}

/** A note to sound. `time` and `end` in seconds on the audio clock. */
export interface Strike extends MixSettings {
  /** What moves controllers of its own: a lane. In MIDI they are of the channel, and so of all that share it. */
  readonly part: string
  /** The name of the port that it is for. */
  readonly port: string
  readonly voice: Voice
  /** Semitones above the note that the lane plays plainly. */
  readonly semitones: number
  readonly pitch: number
  readonly velocity: number
  readonly channel: number
  /** Of a voice that plays any pitch, how it is set; null for one that is struck. */
  readonly tone: Schemas['Tone'] | null
  readonly time: number
  readonly end: number
}

/** A note that was handed over. */
export interface Sounding {
  /** Silence it from `time` seconds on; before its start it never sounds. */
  cut(time: number): void
  /** Let it fade as its voice does, as when a key is let go; voices that are struck know nothing of it. */
  letGo?(time: number): void
  /** Do not end where it was to: it is let go later. */
  holdOn?(): void
}

/** A controller's value, from `time` seconds on. */
export interface Move {
  readonly part: string
  readonly port: string
  readonly channel: number
  readonly controller: number
  readonly value: number
  readonly time: number
}

/** Which of its sounds an instrument is to choose on a channel. */
export interface Choosing {
  readonly part: string
  readonly port: string
  readonly channel: number
  readonly program: Schemas['Program']
  readonly time: number
}

/**
 * The contract: times never lie before those that were given earlier by more than what the clock has passed; a note that
 * was struck ends, by its end, by a cut, or by `silence`, whatever happens to the port.
 */
export interface Port {
  strike(note: Strike): Sounding
  move(control: Move): void
  choose?(program: Choosing): void
  /** End all that sounds now, and all that was to sound. */
  silence?(): void
  /** As if no controller had been moved. */
  rest?(): void
}

/** The ports that every musician has. */
export const BUILT_IN = 'built-in sounds'
export const SIMULATED = 'simulated instrument'

/** What tells the time, in seconds that never run back. */
export interface Clock {
  now(): number
}

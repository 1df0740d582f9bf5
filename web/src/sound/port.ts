/** Where notes go: the built-in kit, or later a MIDI port. */
import type { Schemas } from '@/api/client'

type Voice = Schemas['Voice']

/** How a lane stands in the room. `level` in dB, `pan` from -100 (left) to 100. */
export interface Standing {
  readonly level: number
  readonly pan: number
}

/** A note to sound. `time` and `end` in seconds on the audio clock. */
export interface Strike extends Standing {
  /** What moves controllers of its own: a lane. In MIDI they are of the channel, and so of all that share it. */
  readonly part: string
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
}

/** A controller's value, from `time` seconds on. */
export interface Move {
  readonly part: string
  readonly channel: number
  readonly controller: number
  readonly value: number
  readonly time: number
}

export interface Port {
  strike(note: Strike): Sounding
  move(control: Move): void
}

/** What tells the time, in seconds that never run back. */
export interface Clock {
  now(): number
}

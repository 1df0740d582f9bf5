/** Where notes go: the built-in kit, or later a MIDI port. */

/** A note to sound. `time` and `end` in seconds on the audio clock. */
export interface Strike {
  readonly voice: string
  readonly pitch: number
  readonly velocity: number
  readonly channel: number
  readonly time: number
  readonly end: number
}

/** A note that was handed over. */
export interface Sounding {
  /** Silence it from `time` seconds on; before its start it never sounds. */
  cut(time: number): void
}

export interface Port {
  strike(note: Strike): Sounding
}

/** What tells the time, in seconds that never run back. */
export interface Clock {
  now(): number
}

/** The MIDI clock that runs from here: 24 pulses a quarter, start, continue, stop and the song position. */
import { pulsesAfter, sixteenthsAt, ticksOfPulse } from '../time'
import { CLOCK, CONTINUE, songPosition, START, STOP, type Message } from './messages'
import { HANDED_AHEAD } from './midiPort'

/** What plays, in ticks since play was pressed. */
export interface Music {
  readonly isPlaying: boolean
  elapsedAt(seconds: number): number | null
  timeOfElapsed(ticks: number): number
}

export class ClockOut {
  /** The next pulse, from 0; null while it stands. */
  #next: number | null = null

  constructor(private readonly tell: (message: Message, time: number) => void) {}

  /** Tell what is due by `now`. To be called several times in HANDED_AHEAD. */
  follow(music: Music, now: number) {
    const at = music.isPlaying ? music.elapsedAt(now + HANDED_AHEAD) : null
    if (at === null) return this.stop(now)
    if (this.#next === null) this.#begin(music, now)
    while (this.#next !== null && ticksOfPulse(this.#next) <= at) {
      this.tell([CLOCK], Math.max(now, music.timeOfElapsed(ticksOfPulse(this.#next))))
      this.#next++
    }
  }

  stop(now: number) {
    if (this.#next !== null) this.tell([STOP], now)
    this.#next = null
  }

  /** From the beginning with a start; elsewhere from the next sixteenth, which is all that a song position can say. */
  #begin(music: Music, now: number) {
    const at = Math.max(0, music.elapsedAt(now) ?? 0)
    const sixteenths = sixteenthsAt(at)
    this.#next = pulsesAfter(sixteenths)
    if (sixteenths === 0) return this.tell([START], now)
    this.tell(songPosition(sixteenths), now)
    this.tell([CONTINUE], now)
  }
}

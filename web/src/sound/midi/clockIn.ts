/** A MIDI clock that comes from outside: its tempo without its jitter, where it says the music is, whether it is there. */
import { pulsesAfter, tempoOfPulses, ticksOfPulse } from '../time'
import { CLOCK, CONTINUE, SONG_POSITION, START, STOP, type Message } from './messages'

/** Pulses that the tempo is reckoned from: eight quarters; and the fewest from which it can be. */
const MEASURED = 192
const FEWEST = 12
/** Seconds without a pulse after which it is lost. */
export const LOST_AFTER = 0.5
/** By how much an interval may differ from the others before it is taken for a change of tempo. */
const CHANGED = 0.25

export type Heard = 'start' | 'continue' | 'stop' | 'pulse'

export class ClockIn {
  isRunning = false
  /** Pulses since the beginning of the music; the next one has this number. */
  position = 0
  #times: number[] = []

  /** Take a message that came at `time` seconds. What of the clock it was; null for all else. */
  take(message: Message, time: number): Heard | null {
    switch (message[0]) {
      case START:
        this.position = 0
        this.isRunning = true
        return 'start'
      case CONTINUE:
        this.isRunning = true
        return 'continue'
      case STOP:
        this.isRunning = false
        return 'stop'
      case SONG_POSITION:
        this.position = pulsesAfter((message[1] ?? 0) + ((message[2] ?? 0) << 7))
        return null
      case CLOCK:
        this.#pulse(time)
        return 'pulse'
    }
    return null
  }

  /** Whether no pulse came for a while. */
  isLost(now: number): boolean {
    return now - (this.#times.at(-1) ?? -Infinity) > LOST_AFTER
  }

  /** Quarters a minute, by all of the last pulses together; null before there are enough. */
  get tempo(): number | null {
    const line = this.#line()
    return line && tempoOfPulses(line.seconds)
  }

  /** Where the music is by it at `now`, in ticks from its beginning; null while it stands, or before it is known. */
  ticksAt(now: number): number | null {
    const line = this.#line()
    if (!line || !this.isRunning) return null
    return ticksOfPulse(this.position - 1 + (now - line.last) / line.seconds)
  }

  #pulse(time: number) {
    const last = this.#times.at(-1)
    // After a pause, and where the tempo has jumped, what came before says nothing any more.
    if (last !== undefined && (time - last > LOST_AFTER || this.#hasJumped(time))) this.#times = []
    this.#times = [...this.#times, time].slice(-MEASURED)
    if (this.isRunning) this.position++
  }

  /** Whether the last pulses all come at another pace than those before: jitter alone would not lean to one side. */
  #hasJumped(time: number): boolean {
    const line = this.#line()
    const eighth = this.#times.at(-8)
    if (!line || eighth === undefined || this.#times.length < 3 * FEWEST) return false
    return Math.abs((time - eighth) / 8 / line.seconds - 1) > CHANGED
  }

  /** The straight line through the pulses by least squares: seconds a pulse, and where on it the last one lies. */
  #line(): { seconds: number; last: number } | null {
    const times = this.#times
    const count = times.length
    if (count < FEWEST) return null
    const first = times[0] ?? 0
    const middle = (count - 1) / 2
    const mean = times.reduce((sum, time) => sum + time - first, 0) / count
    let [along, square] = [0, 0]
    times.forEach((time, at) => {
      along += (at - middle) * (time - first - mean)
      square += (at - middle) ** 2
    })
    const seconds = along / square
    return seconds > 0 ? { seconds, last: first + mean + seconds * middle } : null
  }
}

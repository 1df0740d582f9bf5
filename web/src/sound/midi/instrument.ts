/** A simulated instrument: it takes messages as one would, shows them, and can be slow, full, or gone. */
import type { Clock } from '../port'
import { isNoteOff, isNoteOn, type Message } from './messages'
import type { Instrument } from './midiPort'

export type Mood = 'well' | 'slow' | 'full' | 'gone'

/** `time`: when it is to be obeyed; `handed`: when it came; both in seconds on the audio clock. */
export interface ReceivedMessage {
  readonly message: Message
  readonly time: number
  readonly handed: number
}

const REMEMBERED = 20_000
/** Seconds by which a slow one obeys later. */
export const SLOWNESS = 0.12

export class SimulatedInstrument implements Instrument {
  /** What it does with messages: it obeys; later than it should; refuses them; or is not there. */
  mood: Mood = 'well'
  taken: readonly ReceivedMessage[] = []
  /** Told of each message that is taken. */
  readonly onTaken = new Set<(taken: ReceivedMessage) => void>()
  #new: ReceivedMessage[] = []

  constructor(private readonly clock: Clock) {}

  send(message: Message, time: number) {
    if (this.mood === 'gone') throw new Error('The simulated instrument is gone.')
    if (this.mood === 'full') throw new Error('The simulated instrument takes no more messages: it is full.')
    const taken = {
      message,
      time: this.mood === 'slow' ? time + SLOWNESS : time,
      handed: this.clock.now(),
    }
    this.#new.push(taken)
    if (this.#new.length >= REMEMBERED) this.gather() // nobody may look for hours
    for (const tell of this.onTaken) tell(taken)
  }

  /** Bring `taken` up to date: not at each of thousands of messages. */
  gather(): readonly ReceivedMessage[] {
    if (this.#new.length) {
      this.taken = [...this.taken, ...this.#new].slice(-REMEMBERED)
      this.#new = []
    }
    return this.taken
  }
  forget() {
    this.taken = []
    this.#new = []
  }
}

/** Notes that messages have begun and not ended, in the order in which they are obeyed. */
export function stillSounding(taken: readonly ReceivedMessage[]): string[] {
  const sounding = new Set<string>()
  const byTime = [...taken].sort((one, other) => one.time - other.time)
  for (const { message } of byTime) {
    const key = `${(message[0] ?? 0) & 15} ${message[1]}`
    if (isNoteOn(message)) sounding.add(key)
    else if (isNoteOff(message)) sounding.delete(key)
  }
  return [...sounding]
}

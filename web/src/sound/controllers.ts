/** What controllers hold at the ports, and which of their sounds instruments were told to choose: sent where that changes. */
import { neutral } from './neutral'
import type { Clock, Port } from './port'
import { controlsOf, type ReadyControl, type Sounds } from './prepared'

export class Controllers {
  /** What each was last given. */
  #held = new Map<string, ReadyControl>()
  /** What instruments were told, by port and channel. */
  #chosen = new Map<string, string>()

  constructor(
    private readonly clock: Clock,
    private readonly port: Port,
  ) {}

  /** All are given what they hold anew; instruments keep their sounds unless `isFirst`. */
  begin(isFirst: boolean) {
    this.#held.clear()
    if (isFirst) this.#chosen.clear()
  }

  /** Move one at `seconds` on the clock, or now if that is over. */
  move(next: ReadyControl, seconds: number) {
    this.#held.set(keyOf(next), next)
    const { laneId, port, channel, controller, value } = next
    const time = Math.max(seconds, this.clock.now())
    this.port.move({ part: laneId, port, channel, controller, value, time })
  }

  /** What must be moved at `from` ticks, before anything else, so that all hold what they should there. */
  missing(sounds: Sounds, from: number): ReadyControl[] {
    const sent = controlsOf(sounds.controls, sounds)
    const earlier = sent.filter(({ tick }) => tick < from)
    const due = new Map([...controlsOf(sounds.held, sounds), ...earlier].map((one) => [keyOf(one), one]))
    // What nothing moves any more goes back to where it changes nothing.
    const movedKeys = new Set([...due.keys(), ...sent.map(keyOf)])
    for (const [key, one] of this.#held) {
      const value = neutral(one.controller)
      if (!movedKeys.has(key) && one.value !== value) due.set(key, { ...one, value })
    }
    const tick = Math.ceil(from) // commitments end anywhere, what is on the tape lies on whole ticks
    return [...due]
      .filter(([key, { value }]) => this.#held.get(key)?.value !== value)
      .map(([, one]) => ({ ...one, tick }))
  }

  /** Tell instruments which of their sounds to choose, where they have not been told. */
  choose({ programs }: Sounds) {
    const time = this.clock.now()
    for (const { lane, port, channel, program } of programs) {
      const [key, said] = [`${port} ${channel}`, JSON.stringify(program)]
      if (this.#chosen.get(key) === said) continue
      this.#chosen.set(key, said)
      this.port.choose?.({ part: lane, port, channel, program, time })
    }
  }
}

/** In MIDI a controller is of its port's channel, here of its lane. */
const keyOf = ({ laneId, port, channel, controller }: ReadyControl) =>
  `${laneId} ${port} ${channel} ${controller}`

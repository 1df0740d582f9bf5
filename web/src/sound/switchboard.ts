/** Each note to the port that it is for: by its name; to the built-in sounds while that is not there. */
import { BUILT_IN, type Choosing, type Move, type Port, type Sounding, type Strike } from './port'

export class Switchboard implements Port {
  readonly #ports = new Map<string, Port>()
  readonly #chosen = new Map<string, Choosing>()
  /** Told the name of a port that something is for and that is not there. */
  onMissing: (port: string) => void = () => undefined

  constructor(private readonly builtIn: Port) {}

  /** What comes back, or comes late, is told what it was to choose. */
  plug(name: string, port: Port) {
    const isNew = !this.#ports.has(name)
    this.#ports.set(name, port)
    if (isNew) this.#chosen.forEach((program) => program.port === name && port.choose?.(program))
  }
  /** Take a port away: what sounds there ends. */
  unplug(name: string) {
    this.#ports.get(name)?.silence?.()
    this.#ports.delete(name)
  }

  strike(note: Strike): Sounding {
    return this.#of(note.port).strike(note)
  }
  move(control: Move) {
    this.#of(control.port).move(control)
  }
  choose(program: Choosing) {
    this.#chosen.set(`${program.port} ${program.channel}`, program)
    this.#of(program.port).choose?.(program)
  }
  silence() {
    this.builtIn.silence?.()
    this.#ports.forEach((port) => port.silence?.())
  }

  rest() {
    this.builtIn.rest?.()
    this.#ports.forEach((port) => port.rest?.())
  }

  #of(name: string): Port {
    const port = name === BUILT_IN ? this.builtIn : this.#ports.get(name)
    if (!port) this.onMissing(name)
    return port ?? this.builtIn
  }
}

/** Keys that wait for the engine: from where the first of them counts, nothing is committed before its answer. */
import { postponed } from './time'

/** Seconds that keys may come late where the engine is slow: to begin with, and at most. */
const PATIENCE = 0.1
const MOST_PATIENCE = 1.6

interface Stamp {
  readonly version: number
  readonly tick: number
}

export class PendingKeys {
  #stamps: readonly Stamp[] = []
  /** The tick at which the last key of this run counts. */
  #last = -1
  #patience = PATIENCE

  /** Another run: no key has counted in it. */
  begin() {
    this.#stamps = []
    this.#last = -1
  }
  /** The tick from which nothing may be committed; Infinity where nothing waits. */
  get from(): number {
    return this.#stamps[0]?.tick ?? Infinity
  }
  get isHeld(): boolean {
    return this.#stamps.length > 0
  }

  /** Where a key counts that makes `version`: not before `tick`, and after all keys before it, so that they keep their order. */
  take(tick: number, version: number): number {
    const counts = Math.ceil(Math.max(tick, this.#last + 1))
    this.#stamps = [...this.#stamps, { version, tick: counts }]
    this.#last = counts
    return counts
  }
  /** The engine has answered to `version`. `isNewest`: nothing has changed since. */
  answered(version: number, isNewest: boolean) {
    this.#stamps = this.#stamps.filter((stamp) => stamp.version > version)
    if (isNewest) this.#patience = PATIENCE
  }

  /**
   * An answer is not here in time: what waits counts later then, by more each time, so that it never hangs. `tickIn`: the
   * tick that is reached in so many seconds; `tell`: told from where to where, returns the version that it made, if any.
   */
  release(tickIn: (seconds: number) => number, tell: (late: number, tick: number) => number | null) {
    const [late, waiting] = [this.from, this.#stamps]
    this.#patience = Math.min(MOST_PATIENCE, this.#patience * 2)
    const tick = Math.ceil(Math.max(tickIn(this.#patience), this.#last) + 1)
    this.#stamps = []
    const version = tell(late, tick)
    if (version === null) return
    this.#last = postponed(this.#last, late, tick)
    this.#stamps = waiting.map((stamp) => ({ version, tick: postponed(stamp.tick, late, tick) }))
  }
}

/** Knobs that stand elsewhere than what they move: nothing jumps, it waits until the knob passes the value. */

/** As near as a knob of 128 steps can come, of its whole way. */
const NEAR = 1.01 / 127

interface KnobState {
  readonly share: number
  /** Where the knob has put the value; null while it waits. */
  readonly put: number | null
}

export class Takeover {
  readonly #known = new Map<string, KnobState>()

  /**
   * Whether the value is the knob's now. `share`: where the knob stands, 0 to 1; `current`: where the value does; `puts`:
   * where the value will stand when the knob has it.
   */
  takes(key: string, share: number, current: number, puts: number): boolean {
    const before = this.#known.get(key)
    const holds = before?.put !== null && before !== undefined && Math.abs(before.put - current) < 1e-6
    const passes = before !== undefined && (before.share - current) * (share - current) <= 0
    const takes = holds || passes || Math.abs(share - current) <= NEAR
    this.#known.set(key, { share, put: takes ? puts : null })
    return takes
  }

  /** Where a knob stands that waits; null: it does not. */
  waitsAt(key: string): number | null {
    const knob = this.#known.get(key)
    return knob && knob.put === null ? knob.share : null
  }

  forget() {
    this.#known.clear()
  }
}

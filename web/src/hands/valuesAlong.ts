/** Painting over a row of values: what one stroke of a hand lays down. Pure. */

/** `[place, value]` under the hand. */
export type Touch = readonly [number, number]

/** Every place between two touches, each with a value on the straight line between theirs: a fast hand leaves no gap. */
export function line([from, first]: Touch, [to, last]: Touch): Map<number, number> {
  const values = new Map<number, number>()
  const by = Math.sign(to - from)
  const steps = Math.abs(to - from)
  for (let gone = 0; gone <= steps; gone++) {
    values.set(from + gone * by, Math.round(first + ((last - first) * gone) / Math.max(1, steps)))
  }
  return values
}

/** A stroke from its first touch on: drawn along by hand, or one straight ramp from where it began. */
export class Stroke {
  readonly #first: Touch
  #last: Touch
  #drawn: Map<number, number>

  constructor(touch: Touch) {
    this.#first = this.#last = touch
    this.#drawn = new Map([touch])
  }

  /** All values of the stroke after one more touch. */
  to(touch: Touch, isRamp: boolean): Map<number, number> {
    if (isRamp) return line(this.#first, touch)
    for (const [place, value] of line(this.#last, touch)) this.#drawn.set(place, value)
    this.#last = touch
    return new Map(this.#drawn)
  }
}

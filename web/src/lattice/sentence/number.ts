/** What the hand means when it moves a number. */

/** Pixels of a drag that one unit takes: fewer where there is far to go. */
export const pixelsPerUnit = (range: number): number => (range > 1000 ? 0.25 : range > 60 ? 2.5 : 8)

/** The whole number after dragging `up` pixels from `value`; `isSlow`: with Shift held. */
export function valueAfterDrag(value: number, up: number, range: number, isSlow: boolean): number {
  return Math.round(value + up / (pixelsPerUnit(range) * (isSlow ? 5 : 1)))
}

/** The number that was typed, to so many decimals; null if it is none. */
export function valueOfTyping(typed: string | null, decimals: number): number | null {
  if (!typed) return null
  const value = Number(typed.replace(',', '.'))
  if (!Number.isFinite(value)) return null
  return Math.round(value * 10 ** decimals) / 10 ** decimals
}

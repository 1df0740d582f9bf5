/** What the hand means when it moves a number. */
import type { Word } from '@/api/client'

/** Pixels of a drag that one unit takes: fewer where there is far to go. */
export const pixelsPerUnit = (range: number): number => (range > 60 ? 2.5 : 8)

/** A range beyond which a drag goes slowly near where it began, and the faster the further it gets. */
const WIDE = 1000
/** Pixels of a drag within which a wide range moves one by one. */
const NEAR = 60
/** Pixels of a drag that reach all of a wide range. */
const FAR = 400

/** A number of a sentence: beyond what a float holds exactly, a bigint. */
export type Amount = number | bigint

export const plus = (value: Amount, by: number): Amount =>
  typeof value === 'bigint' ? value + BigInt(by) : value + by

export function within(value: Amount, low: Amount, high: Amount): Amount {
  if (value < low) return low
  return value > high ? high : value
}

/** The whole number after dragging `up` pixels from `value`; `isSlow`: with Shift held. */
export function valueAfterDrag(value: Amount, up: number, range: number, isSlow: boolean): Amount {
  const by = unitsOf(Math.abs(up) / (isSlow ? 5 : 1), range) * Math.sign(up)
  return typeof value === 'bigint' ? plus(value, Math.round(by)) : Math.round(value + by)
}

function unitsOf(pixels: number, range: number): number {
  if (range <= WIDE) return pixels / pixelsPerUnit(range)
  const near = Math.min(pixels, NEAR) / pixelsPerUnit(WIDE)
  const far = Math.max(0, pixels - NEAR) / (FAR - NEAR)
  return near + range * far ** 3
}

/** The number that was typed, to so many decimals; null if it is none. */
export function valueOfTyping(typed: string | null, decimals: number): number | null {
  if (!typed) return null
  const value = Number(typed.replace(',', '.'))
  if (!Number.isFinite(value)) return null
  return Math.round(value * 10 ** decimals) / 10 ** decimals
}

/** The digits that were typed, counted from 1, as a number from 0; null if they are none. */
export function amountOfDigits(typed: string | null): bigint | null {
  return typed && /^\d+$/.test(typed) ? BigInt(typed) - 1n : null
}

/** The least and the greatest that a number may be: see `api/limits.json`. */
export interface Limits {
  readonly min: number
  readonly max: number
}

/** A number that a hand moves which is no part of a lane's sentence, as a word: what it is called and its limits. */
export const numberWord = (name: string, value: number, { min: low, max: high }: Limits, field = ''): Word => ({
  kind: 'number', text: `${value}`, name, field, value, stored: value, counted_from: 0, negated: false, low, high, decimals: 0,
  digits: '', last_digits: '', patch: null, strip: '', own: 0,
}) // prettier-ignore

// @vitest-environment node
import { expect, test } from 'vitest'

import { lastsOf, ticksOfSpan } from './spans'

const FOUR = { numerator: 4, denominator: 4 } as const
const SEVEN = { numerator: 7, denominator: 8 } as const
const BAR_OF_FOUR = 53760
const BAR_OF_SEVEN = 47040

test('whole bars are said as bars', () => {
  expect(lastsOf(2 * BAR_OF_FOUR + 900, FOUR, BAR_OF_FOUR)).toEqual({ kind: 'bars', bars: 2 })
})

test('other lengths are so many notes of the beat, halves of it where they are fine', () => {
  const three = lastsOf(3 * 6720, SEVEN, BAR_OF_SEVEN)
  expect(three).toEqual({ kind: 'note', value: { note: 8, kind: 'plain', multiplier: 3, divisor: 1 } })
  expect(ticksOfSpan(three, BAR_OF_SEVEN)).toBe(3 * 6720)
  const fine = lastsOf(3.5 * 6720, SEVEN, BAR_OF_SEVEN, true)
  expect(ticksOfSpan(fine, BAR_OF_SEVEN)).toBe(3.5 * 6720)
})

test('no chord is shorter than a beat or longer than a progression may say', () => {
  expect(ticksOfSpan(lastsOf(-500, FOUR, BAR_OF_FOUR), BAR_OF_FOUR)).toBe(13440)
  expect(lastsOf(99.3 * BAR_OF_FOUR, FOUR, BAR_OF_FOUR)).toEqual({ kind: 'bars', bars: 16 })
})

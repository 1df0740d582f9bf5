// @vitest-environment node
import { expect, test } from 'vitest'

import { lengthBeside, nearestLength, ticksOfLasts } from './lengths'

const length = (ticks: number, is_fine = false) => ({
  ticks, is_fine, says: `${ticks}`, lasts: { kind: 'bars' as const, bars: 1 },
}) // prettier-ignore
const all = [length(50, true), length(100), length(150, true), length(200), length(400)]

test('a hand means the nearest length, of those on beats unless it is fine', () => {
  expect(nearestLength(all, 160, false)?.ticks).toBe(200)
  expect(nearestLength(all, 160, true)?.ticks).toBe(150)
  expect(nearestLength(all, -900, false)?.ticks).toBe(100)
  expect(nearestLength(all, 9000, true)?.ticks).toBe(400)
  expect(nearestLength([], 100, true)).toBeUndefined()
})

test('what the document says has its length, and what is none of them has none', () => {
  const said = [{ ...length(100), lasts: { kind: 'bars' as const, bars: 2 } }]
  expect(ticksOfLasts(said, { kind: 'bars', bars: 2 })).toBe(100)
  expect(ticksOfLasts(said, { kind: 'bars', bars: 3 })).toBeUndefined()
})

test('keys go to the next longer and shorter one, and not beyond', () => {
  expect(lengthBeside(all, 200, 1, false)?.ticks).toBe(400)
  expect(lengthBeside(all, 200, -1, false)?.ticks).toBe(100)
  expect(lengthBeside(all, 200, -1, true)?.ticks).toBe(150)
  expect(lengthBeside(all, 400, 1, true)).toBeUndefined()
})

import { expect, it } from 'vitest'

import { keysThatFit } from './useKeysThatFit'

const keys = Array.from({ length: 29 }, (_, at) => ({ is_black: [1, 3, 6, 8, 10].includes(at % 12) }))
const fitting = (whites: number) => keysThatFit(keys, whites * 39 - 3).length

it('are all where there is room, and end on a white one where there is not', () => {
  expect(keysThatFit(keys, 2000)).toBe(keys)
  expect([17, 14, 11, 10, 8].map(fitting)).toEqual([29, 24, 18, 17, 13])
})

it('are an octave at least', () => {
  expect(fitting(2)).toBe(12)
})

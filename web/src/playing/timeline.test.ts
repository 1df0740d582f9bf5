// @vitest-environment node
import { expect, test } from 'vitest'

import { NO_KEYS } from '@/work/document'
import { afterAll, downKeys, isPedalDown, pedalled, pressed, released } from './timeline'

test('a key is held from where it is struck to where it is let go', () => {
  const struck = pressed(NO_KEYS, 62, 80, 480)
  expect(downKeys(struck)).toEqual([62])
  expect(released(struck, 62, 960).held).toEqual([{ start: 480, end: 960, key: 62, velocity: 80 }])
})

test('a key struck again ends what it was', () => {
  const twice = pressed(pressed(NO_KEYS, 62, 80, 0), 62, 100, 50)
  expect(twice.held.map(({ end }) => end)).toEqual([50, null])
})

test('no key ends before it begins', () => {
  expect(released(pressed(NO_KEYS, 62, 80, 500), 62, 400).held[0]?.end).toBe(500)
})

test('the pedal is down from where it goes down to where it comes up', () => {
  const down = pedalled(NO_KEYS, true, 10)
  expect(pedalled(down, false, 30).sustained).toEqual([{ start: 10, end: 30 }])
})

test('what comes next comes after all that hands did', () => {
  expect(afterAll(NO_KEYS)).toBe(0)
  expect(afterAll(pressed(NO_KEYS, 62, 80, 480))).toBe(481)
  expect(afterAll(released(pressed(NO_KEYS, 62, 80, 480), 62, 900))).toBe(901)
  expect(afterAll(pedalled(NO_KEYS, true, 70))).toBe(71)
  expect(isPedalDown(pedalled(NO_KEYS, true, 70))).toBe(true)
  expect(isPedalDown(pedalled(pedalled(NO_KEYS, true, 70), false, 90))).toBe(false)
})

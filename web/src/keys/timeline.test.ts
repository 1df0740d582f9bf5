import { expect, test } from 'vitest'

import { begun, downKeys, letGo, moved, NO_KEYS, pedalled, pressed, released } from './timeline'

const chord = (...keys: number[]) => keys.reduce((all, key) => pressed(all, key, 90, 100), NO_KEYS)
const up = (keys: ReturnType<typeof chord>, tick: number) =>
  downKeys(keys).reduce((all, key) => released(all, key, tick), keys)

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

test('what came too late counts from a later tick, and nothing before it moves', () => {
  const keys = pressed(pressed(NO_KEYS, 60, 90, 100), 64, 90, 500)
  expect(moved(keys, 500, 620).held.map(({ start }) => start)).toEqual([100, 620])
})

test('where the pattern begins anew, keys that are down are so from its first moment', () => {
  expect(begun(chord(62, 65), false).held.map(({ key, start, end }) => [key, start, end])).toEqual([
    [62, 0, null],
    [65, 0, null],
  ])
})

test('of what was let go only the last chord stays for latches, in a stroke of no length', () => {
  const first = up(chord(48, 52), 300)
  const second = up(pressed(pressed(first, 62, 90, 400), 65, 90, 420), 700)
  expect(begun(second, false).held.map(({ key, end }) => [key, end])).toEqual([
    [62, 0],
    [65, 0],
  ])
  expect(begun(second, true).held.map(({ key }) => key)).toEqual([48, 52, 62, 65])
})

test('what was let go of all latches is gone', () => {
  expect(begun(letGo(up(chord(62), 300), 400), true).held).toEqual([])
})

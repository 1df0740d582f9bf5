import { describe, expect, it } from 'vitest'

import type { ReceivedMessage } from '@/sound/midi/instrument'
import { drawnOf, filterOf, linesOf, spread } from './monitor'
import { shareOf, thingOf } from './useControllers'

const at = (time: number, ...message: number[]): ReceivedMessage => ({ message, time, handed: time })
const name = (pitch: number) => `note ${pitch}`

describe('the monitor', () => {
  it('says each message in words, the newest first, and pulses in a row once', () => {
    const lines = linesOf(
      [
        at(1, 0x99, 36, 100),
        at(2, 0x89, 36, 0),
        at(3, 0xb0, 74, 9),
        at(4, 0xe1, 0, 64),
        at(5, 0xf8),
        at(6, 0xf8),
        at(7, 0xc2, 4),
      ],
      9,
      name,
    )
    expect(lines.map(({ channel, name, says }) => `${channel} ${name} ${says}`.trim())).toEqual([
      '3 program 5',
      'clock',
      '2 bend 0',
      '1 controller 74 brightness 9',
      '10 note off note 36 (36)',
      '10 note on note 36 (36), velocity 100',
    ])
  })

  it('draws a note from its on to its off, and one that sounds still without an end', () => {
    const drawn = drawnOf([at(1, 0x90, 60, 9), at(2, 0x90, 72, 9), at(3, 0x80, 60, 0), at(3, 0xd0, 127)], 0)
    expect(drawn.filter(({ filter }) => filter === 'notes').map(({ start, end }) => [start, end])).toEqual([
      [1, 3],
      [2, null],
    ])
    expect(drawn.find(({ filter }) => filter === 'pressure')!.share).toBe(1)
    const shares = spread(drawn).flatMap(({ filter, share }) => (filter === 'notes' ? share : []))
    expect(Math.max(...shares)).toBeLessThanOrEqual(1)
    expect(Math.min(...shares)).toBeGreaterThanOrEqual(0)
  })

  it('knows each message by its kind', () => {
    expect([[0x90, 1, 1], [0xb0, 1, 1], [0xe0, 1, 1], [0xd0, 1], [0xc0, 1], [0xfa]].map(filterOf)).toEqual([
      'notes',
      'controllers',
      'bend',
      'pressure',
      'program',
      'clock',
    ])
  })
})

describe('things on a controller', () => {
  it('are told apart by kind, channel and number', () => {
    expect(thingOf([0x95, 40, 3])).toEqual({ message: 'note', channel: 6, number: 40 })
    expect(thingOf([0x85, 40, 3])).toEqual({ message: 'note', channel: 6, number: 40 })
    expect(thingOf([0xb0, 7, 3])).toEqual({ message: 'control', channel: 1, number: 7 })
    expect(thingOf([0xe0, 0, 64])).toEqual({ message: 'bend', channel: 1, number: 0 })
    expect(thingOf([0xd0, 5])).toEqual({ message: 'pressure', channel: 1, number: 0 })
    expect([thingOf([0xf8]), thingOf([0xc0, 1])]).toEqual([null, null])
  })

  it('are turned from nothing to all', () => {
    expect(
      [
        [0xb0, 7, 0],
        [0xb0, 7, 127],
        [0xe0, 0, 0],
        [0xe0, 127, 127],
        [0x90, 1, 127],
      ].map(shareOf),
    ).toEqual([0, 1, 0, 1, 1])
  })
})

// @vitest-environment node
import { describe, expect, it } from 'vitest'

import { BEND, PRESSURE } from '../neutral'
import {
  channelOf, control, moved, movedBy, nameOf, noteOff, noteOn, programChange, Reader, songPosition,
} from './messages' // prettier-ignore

describe('messages', () => {
  it('say what MIDI 1.0 says', () => {
    expect(noteOn(10, 36, 100)).toEqual([0x99, 36, 100])
    expect(noteOff(1, 60)).toEqual([0x80, 60, 0])
    expect(control(16, 74, 3)).toEqual([0xbf, 74, 3])
    expect(moved(3, PRESSURE, 9)).toEqual([0xd2, 9])
    expect(moved(1, BEND, 0)).toEqual([0xe0, 0, 64])
    expect(programChange(2, 5, 259)).toEqual([
      [0xb1, 0, 2],
      [0xb1, 32, 3],
      [0xc1, 4],
    ])
    expect(programChange(2, 128, null)).toEqual([[0xc1, 127]])
    expect(songPosition(300)).toEqual([0xf2, 44, 2])
  })

  it('move what they were made to move, over the whole range', () => {
    for (const [controller, values] of [
      [74, [0, 1, 127]],
      [PRESSURE, [0, 127]],
      [BEND, [-8192, -1, 0, 1, 8191]],
    ] as const)
      for (const value of values)
        for (const channel of [1, 16]) {
          const message = moved(channel, controller, value)
          expect(movedBy(message)).toEqual({ controller, value })
          expect(channelOf(message)).toBe(channel)
          expect(message.every((byte) => byte >= 0 && byte < 256)).toBe(true)
        }
  })

  it('are called what people call them; a note on without velocity is an off', () => {
    expect([[0x90, 60, 0], [0x90, 60, 1], [0xf8], [0xf0]].map(nameOf)).toEqual([
      'note off',
      'note on',
      'clock',
      'system',
    ])
  })
})

describe('reading bytes', () => {
  const read = (...bytes: number[]) => new Reader().read(bytes)

  it('fills in running status, and takes real-time messages in the midst of others', () => {
    expect(read(0x90, 60, 100, 64, 0xf8, 90, 0xc1, 5, 6)).toEqual([
      [0x90, 60, 100],
      [0xf8],
      [0x90, 64, 90],
      [0xc1, 5],
      [0xc1, 6],
    ])
  })

  it('takes a message that comes in parts as one', () => {
    const reader = new Reader()
    expect([...reader.read([0x90]), ...reader.read([60]), ...reader.read([100])]).toEqual([[0x90, 60, 100]])
    expect(reader.broken).toBe(0)
  })

  it('drops what is cut short and what belongs to nothing, and goes on', () => {
    const reader = new Reader()
    expect(reader.read([12, 0x90, 60, 0x80, 60, 0, 0xf0, 1, 2, 0xf7, 7, 0xb0, 64, 127])).toEqual([
      [0x80, 60, 0],
      [0xb0, 64, 127],
    ])
    expect(reader.broken).toBe(3)
  })

  it('reads any bytes at all without an error, each message whole', () => {
    let seed = 7
    const random = () => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648)
    const reader = new Reader()
    for (let round = 0; round < 2000; round++) {
      const bytes = Array.from({ length: random() % 9 }, () => random() % 256)
      for (const [status = 0, ...data] of reader.read(bytes)) {
        expect(status).toBeGreaterThanOrEqual(0x80)
        expect(data.every((byte) => byte < 0x80)).toBe(true)
      }
    }
  })
})

// @vitest-environment node
import { afterEach, beforeEach, expect, test, vi } from 'vitest'

import type { Message } from '@/sound/midi/messages'
import { CROSSING, heed, replay, type Stamped } from './midiKeyboard'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

function listening() {
  const told: string[] = []
  return {
    told,
    down: (key: number, velocity: number) => void told.push(`down ${key} ${velocity}`),
    up: (key: number) => void told.push(`up ${key}`),
    sustain: (isDown: boolean) => void told.push(isDown ? 'pedal' : 'no pedal'),
  }
}

test('messages mean what the MIDI standard says, a note-on without velocity a note-off', () => {
  const heard = listening()
  const sent: Message[] = [[0x93, 60, 100], [0x90, 60, 0], [0x80, 61, 64], [0xb0, 64, 127], [0xb0, 64, 12], [0xb0, 7, 90]] // prettier-ignore
  sent.forEach((message) => heed(message, heard))
  expect(heard.told).toEqual(['down 60 100', 'up 60', 'up 61', 'pedal', 'no pedal'])
})

test('a phrase is played in time, and all it struck is let go', () => {
  const heard = listening()
  const ended = vi.fn()
  replay(CROSSING, 120, heard, ended)
  vi.advanceTimersByTime(1000)
  expect(heard.told).toEqual(['down 64 84', 'down 67 92', 'down 71 100'])
  vi.advanceTimersByTime(7000)
  expect(ended).toHaveBeenCalledOnce()
  const struck = heard.told.filter((one) => one.startsWith('down')).length
  expect(heard.told.filter((one) => one.startsWith('up'))).toHaveLength(struck)
})

test('each message of a phrase has the time at which it was due', () => {
  const times: number[] = []
  const down = (_key: number, _velocity?: number, event?: Stamped) => void times.push(event!.timeStamp)
  const begin = performance.now()
  replay([...CROSSING], 120, { ...listening(), down }, vi.fn())
  vi.advanceTimersByTime(8000)
  expect(times.slice(0, 4).map((time) => Math.round(time - begin))).toEqual([0, 10, 20, 1750])
})

test('a phrase that is stopped lets go of what is down', () => {
  const heard = listening()
  const stop = replay(CROSSING, 120, heard, vi.fn())
  vi.advanceTimersByTime(500)
  stop()
  expect(heard.told.slice(-4)).toEqual(['up 64', 'up 67', 'up 71', 'no pedal'])
  vi.advanceTimersByTime(10_000)
  expect(heard.told).toHaveLength(7)
})

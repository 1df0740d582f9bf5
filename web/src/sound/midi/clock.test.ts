// @vitest-environment node
/** The MIDI clock, out and in, on a clock that is stepped. */
import { describe, expect, it } from 'vitest'

import { ClockIn, LOST_AFTER } from './clockIn'
import { ClockOut, type Music } from './clockOut'
import { CLOCK, CONTINUE, START, STOP, type Message } from './messages'

const QUARTER = 13440

/** Music that plays at a tempo from a moment on. */
function music(tempo: number, began: number, from = 0): Music & { isPlaying: boolean; now: number } {
  const perTick = 60 / tempo / QUARTER
  return {
    isPlaying: true,
    now: began,
    elapsedAt: (seconds) => from + (seconds - began) / perTick,
    timeOfElapsed: (ticks) => began + (ticks - from) * perTick,
  }
}
function follow(of: Music, from: number, seconds: number) {
  const told: { message: Message; time: number }[] = []
  const clock = new ClockOut((message, time) => told.push({ message, time }))
  let now = from
  for (; now < from + seconds; now += 0.03) clock.follow(of, now)
  clock.stop(now)
  return told
}

describe('the clock that runs from here', () => {
  it('starts, sends 24 pulses a quarter at their exact times, and stops', () => {
    const told = follow(music(112.5, 5), 5, 8)
    expect(told[0]!.message).toEqual([START])
    expect(told.at(-1)!.message).toEqual([STOP])
    const pulses = told.filter(({ message }) => message[0] === CLOCK).map(({ time }) => time)
    pulses.forEach((time, at) => expect(time).toBeCloseTo(5 + (at * 60) / 112.5 / 24, 9))
    expect(pulses.length).toBeGreaterThan((8 * 112.5 * 24) / 60 - 2)
  })

  it('goes on elsewhere with a song position, at the sixteenth that it says', () => {
    const from = 3 * QUARTER + 100
    const of = music(120, 5, from)
    const told = follow(of, 5, 2)
    expect(told.slice(0, 2).map(({ message }) => [...message])).toEqual([[0xf2, 13, 0], [CONTINUE]])
    expect(told[2]!.time).toBeCloseTo(of.timeOfElapsed(13 * (QUARTER / 4)), 9)
  })
})

/** Pulses of a clock at a tempo, each late or early by so much at most, the same each time. */
function* pulses(tempo: number, count: number, jitter: number, from = 1) {
  let seed = 99
  for (let at = 0; at < count; at++) {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    yield from + (at * 60) / tempo / 24 + jitter * (seed / 1_073_741_824 - 1)
  }
}
function heard(tempo: number, beats: number, jitter: number) {
  const clock = new ClockIn()
  clock.take([START], 1)
  for (const time of pulses(tempo, beats * 24 + 1, jitter)) clock.take([CLOCK], time)
  return clock
}

describe('a clock from outside', () => {
  it.each([40, 93.7, 120, 174.25, 200])(
    'is known within 0.1 of %d after eight beats with 3 ms of jitter',
    (tempo) => {
      expect(Math.abs(heard(tempo, 8, 0.003).tempo! - tempo)).toBeLessThan(0.1)
    },
  )

  it('says where the music is, without its jitter', () => {
    const clock = heard(120, 16, 0.003)
    const exact = 16 * QUARTER
    expect(Math.abs(clock.ticksAt(1 + 8)! - exact)).toBeLessThan(QUARTER * 0.004)
  })

  it('follows a jump of the tempo within two beats', () => {
    const clock = heard(120, 8, 0)
    for (const time of pulses(80, 49, 0.001, 5.1)) clock.take([CLOCK], time)
    expect(Math.abs(clock.tempo! - 80)).toBeLessThan(1)
  })

  it('is lost when no pulse comes, and found again', () => {
    const clock = heard(120, 4, 0)
    expect(clock.isLost(3.1)).toBe(false)
    expect(clock.isLost(3.1 + LOST_AFTER)).toBe(true)
    for (const time of pulses(90, 30, 0, 10)) clock.take([CLOCK], time)
    expect(clock.isLost(20.5 - 10)).toBe(false)
    expect(clock.tempo).toBeCloseTo(90, 3)
  })

  it('starts, stops, and goes on where its song position says', () => {
    const clock = new ClockIn()
    expect(clock.take([0xf2, 16, 0], 0)).toBeNull()
    expect(clock.take([CONTINUE], 0)).toBe('continue')
    expect(clock.position).toBe(96)
    expect(clock.take([CLOCK], 0)).toBe('pulse')
    expect(clock.position).toBe(97)
    expect(clock.take([STOP], 0)).toBe('stop')
    clock.take([CLOCK], 0.02)
    expect(clock.position).toBe(97)
    expect(clock.take([START], 0)).toBe('start')
    expect(clock.position).toBe(0)
    expect(clock.take([0x90, 60, 1], 0)).toBeNull()
  })
})

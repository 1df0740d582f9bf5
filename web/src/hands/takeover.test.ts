import { beforeEach, describe, expect, it } from 'vitest'

import { Takeover } from './takeover'

let takeover: Takeover
let value: number
/** Turn a knob of 128 steps: the value follows where it is taken. */
function turn(to: number): number {
  const share = to / 127
  if (takeover.takes('knob', share, value, share)) value = share
  return Math.round(127 * value)
}
beforeEach(() => {
  takeover = new Takeover()
  value = 64 / 127
})

describe('taking over', () => {
  it('waits until the knob passes the value, from below or from above', () => {
    expect([10, 40, 60].map(turn)).toEqual([64, 64, 64])
    expect(takeover.waitsAt('knob')).toBeCloseTo(60 / 127, 9)
    expect([70, 90, 20].map(turn)).toEqual([70, 90, 20])
    expect(takeover.waitsAt('knob')).toBeNull()
  })

  it('never moves the value by more than the knob has moved, however it is turned', () => {
    let [knob, before] = [0, 64]
    for (let step = 0; step < 2000; step++) {
      const wanted = (knob * 31 + step * 17) % 128
      const moved = Math.abs(wanted - knob)
      const now = turn(wanted)
      if (step) expect(Math.abs(now - before)).toBeLessThanOrEqual(moved + 1)
      ;[knob, before] = [wanted, now]
      if (step % 97 === 0) before = Math.round(127 * (value = ((step * 7) % 128) / 127))
    }
  })

  it('waits again when something else has moved the value', () => {
    expect([60, 70].map(turn)).toEqual([64, 70])
    value = 20 / 127
    expect([80, 90].map(turn)).toEqual([20, 20])
    expect([15].map(turn)).toEqual([15])
  })

  it('takes the value at once where the knob stands on it', () => {
    expect([64, 65].map(turn)).toEqual([64, 65])
  })
})

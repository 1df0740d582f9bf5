import { describe, expect, it } from 'vitest'

import { PendingKeys } from './pendingKeys'

describe('keys that wait for the engine', () => {
  it('hold back what counts from the first of them on, until it is answered', () => {
    const holds = new PendingKeys()
    expect(holds.from).toBe(Infinity)
    expect([holds.take(10.2, 1), holds.take(30, 2)]).toEqual([11, 30])
    expect(holds.from).toBe(11)
    holds.answered(1, false)
    expect(holds.from).toBe(30)
    holds.answered(2, true)
    expect(holds.isHeld).toBe(false)
  })

  it('keep their order, also where they are told late', () => {
    const holds = new PendingKeys()
    expect([holds.take(100, 1), holds.take(20, 2), holds.take(20, 3)]).toEqual([100, 101, 102])
    holds.begin()
    expect(holds.take(20, 4)).toBe(20)
  })

  it('come later where the answer is late, by more each time, and as far apart as they were', () => {
    const holds = new PendingKeys()
    holds.take(10, 1)
    holds.take(14, 2)
    const told: number[] = []
    const later = () =>
      holds.release(
        (seconds) => seconds * 1000,
        (late, tick) => {
          told.push(late, tick)
          return 3
        },
      )
    later()
    expect(told).toEqual([10, 201])
    expect(holds.from).toBe(201)
    later()
    expect(told.slice(2)).toEqual([201, 401])
    expect(holds.take(0, 4)).toBe(406)
    holds.release(
      () => 0,
      () => null,
    )
    expect(holds.isHeld).toBe(false)
  })
})

import { describe, expect, it } from 'vitest'

import { aLane } from '@/testing'
import type { Movement } from '@/api/client'
import { changesOf, LANE_CONTROLS, withMovement, withoutPoint, withPoint } from './movements'

const movement = (...points: Movement['points']): Movement => ({
  control: 'busy',
  points,
  loop_bars: null,
  off: false,
})
const fields = (before: ReturnType<typeof aLane>, after: ReturnType<typeof aLane>) =>
  changesOf(before, after, LANE_CONTROLS, { note: 16, kind: 'plain', multiplier: 1, divisor: 1 }).map(
    ({ control, was, now }) => [control.field, was, now],
  )

describe('points', () => {
  it('stay in the order of time, one at a tick, and move from where they were', () => {
    const row = movement([0, 1], [10, 2])
    expect(withPoint(row, 5, 9).points.map(([at]) => at)).toEqual([0, 5, 10])
    expect(withPoint(row, 10, 7).points).toEqual([[0, 1], [10, 7]]) // prettier-ignore
    expect(withPoint(row, 20, 1, 0).points).toEqual([[10, 2], [20, 1]]) // prettier-ignore
  })

  it('go one by one, and the movement with the last', () => {
    expect(withoutPoint(movement([0, 1], [10, 2]), 0)?.points).toEqual([[10, 2]])
    expect(withoutPoint(movement([0, 1]), 0)).toBeNull()
    expect(withMovement([movement([0, 1])], 'busy', null)).toEqual([])
    expect(withMovement([], 'busy', movement([0, 1])).length).toBe(1)
  })
})

describe('what a change has moved', () => {
  const plain = aLane('thud')
  it('is said control by control, words for what is one of two', () => {
    expect(fields(plain, { ...plain, busy: 20, mute: true })).toEqual([
      ['busy', 0, 20],
      ['mute', 'on', 'muted'],
    ])
  })

  it('is a step value too, also where the pattern had the say', () => {
    const triplets = { note: 16, kind: 'triplet', multiplier: 1, divisor: 1 } as const
    expect(fields(plain, { ...plain, step_value: triplets })).toEqual([
      ['step_value', { note: 16, kind: 'plain', multiplier: 1, divisor: 1 }, triplets],
    ])
  })

  it('is none where another kind of source took its place, or where it has none', () => {
    const drawn = { ...plain, source: { kind: 'drawn', steps: 8, hits: [0] } as const }
    expect(fields(plain, { ...drawn, source: { ...drawn.source, hits: [...drawn.source.hits] } })).toEqual([])
    expect(fields(plain, { ...plain, accent: { velocity: 120, every: 3, first: 1 } })).toEqual([])
  })
})

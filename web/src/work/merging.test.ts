import { expect, it } from 'vitest'

import { aLane, aPiece } from '@/testing'
import { withLane, withLanes } from './document'
import { laidOn } from './merging'

const before = aPiece(aLane('thud'), aLane('chain'), aLane('bell'))
const edited = (id: string, fields: object, of = before) => withLane(of, 'a', id, (lane) => ({ ...lane, ...fields })) // prettier-ignore
const lanesOf = (piece: typeof before | null) => piece?.patterns[0]!.lanes ?? null

it('lays the fields that an answer changed beside those that a hand has changed', () => {
  const after = edited('thud', { velocity: 90, rotate: 2 })
  const now = edited('chain', { mute: true }, edited('thud', { chance_percent: 40 }))
  const laid = laidOn(before, after, now)
  expect(lanesOf(laid)!.slice(0, 2)).toMatchObject([
    { id: 'thud', velocity: 90, rotate: 2, chance_percent: 40 },
    { id: 'chain', mute: true },
  ])
  expect(lanesOf(laid)![2]).toBe(lanesOf(before)![2]) // what nobody changed stays the same object
})

it('is for the engine to answer again where both have changed the same, unless to the same', () => {
  const after = edited('thud', { velocity: 90 })
  expect(laidOn(before, after, edited('thud', { velocity: 80 }))).toBeNull()
  expect(lanesOf(laidOn(before, after, edited('thud', { velocity: 90, mute: true })))![0]).toMatchObject({
    velocity: 90,
    mute: true,
  })
})

it('keeps lanes that a hand has moved, added or removed, and those that the answer has', () => {
  const after = edited('thud', { velocity: 90 })
  const moved = withLanes(before, 'a', (lanes) => [lanes[1]!, aLane('rope'), lanes[0]!])
  expect(lanesOf(laidOn(before, after, moved))!.map(({ id, velocity }) => [id, velocity])).toEqual([
    ['chain', 100], ['rope', 100], ['thud', 90],
  ]) // prettier-ignore
  const without = withLanes(before, 'a', (lanes) => lanes.slice(1))
  expect(lanesOf(laidOn(before, without, edited('bell', { mute: true })))!.map(({ id, mute }) => [id, mute])).toEqual([
    ['chain', false], ['bell', true],
  ]) // prettier-ignore
  expect(laidOn(before, without, moved)).toBeNull()
})

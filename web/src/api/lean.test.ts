import { expect, test } from 'vitest'

import { aLane } from '@/testing'
import { leanBody } from './lean'
import plain from './plain.json'

test('lanes are sent without what is plain', () => {
  const lane = aLane('thud', { velocity: 64, accent: { every: 3, first: 1, velocity: 120 } })
  const body = { dice: 7, score: { tempo: 112, lanes: [lane, aLane('bell')] } }
  const sent = JSON.parse(leanBody(body))
  expect(sent.dice).toBe(7)
  expect(Object.keys(sent.score.lanes[0]).sort()).toEqual([
    'accent',
    'id',
    'name',
    'source',
    'velocity',
    'voice',
  ])
  expect({ ...plain, ...sent.score.lanes[0] }).toEqual({ ...plain, ...lane })
})

test('what is no score is sent as it is', () => {
  expect(JSON.parse(leanBody({ name: 'Night Ferry', lanes: 3 }))).toEqual({ name: 'Night Ferry', lanes: 3 })
  expect(JSON.parse(leanBody({ lanes: { thud: { latch: 'off' } } }))).toEqual({ lanes: { thud: { latch: 'off' } } }) // prettier-ignore
})

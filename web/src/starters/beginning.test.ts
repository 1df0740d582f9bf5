import { describe, expect, it } from 'vitest'

import type { ListedStarter } from '@/api/library'
import { aLane, aPiece } from '@/testing'
import { begun, isFound, tagsOf } from './beginning'

const piece = aPiece(aLane('thud'), aLane('bell'))
const pattern = piece.patterns[0]!
const ofLane = (name: string, tags: string[], fields: object = {}): ListedStarter => ({
  id: null, starter: { name, tags, lane: aLane('gull') }, fields: fields as Record<string, unknown>,
}) // prettier-ignore

describe('beginning from a starter', () => {
  it('of a lane leaves the lane its name and voice, and the others alone', () => {
    const after = begun(pattern, 'bell', ofLane('Gangway', [], { velocity: 84 }), piece.kit)
    expect(after.lanes[1]).toMatchObject({ id: 'bell', voice: 'bell', velocity: 84 })
    expect(after.lanes[0]).toBe(pattern.lanes[0])
  })

  it('of a pattern gives lanes voices that the kit has', () => {
    const whole = { ...pattern, lanes: [aLane('thud'), aLane('gull'), aLane('rope')], bars: 3 }
    const starter: ListedStarter = {
      id: null,
      starter: { name: 'Swell', tags: [], pattern: whole },
      fields: null,
    }
    const after = begun(pattern, 'bell', starter, piece.kit)
    expect(after).toMatchObject({ id: pattern.id, name: pattern.name, bars: 3 })
    expect(after.lanes.map(({ voice }) => voice)).toEqual(['thud', 'bell', 'thud'])
  })
})

describe('looking for starters', () => {
  const some = [ofLane('Rolling hats', ['roll', 'busy']), ofLane('Even keel', ['steady', 'busy'])]

  it('finds them by the beginnings of words and tags', () => {
    expect(some.filter((one) => isFound(one, 'hat')).map(({ starter }) => starter.name)).toEqual([
      'Rolling hats',
    ])
    expect(some.filter((one) => isFound(one, 'busy'))).toHaveLength(2)
    expect(some.filter((one) => isFound(one, 'busy ke')).map(({ starter }) => starter.name)).toEqual([
      'Even keel',
    ])
    expect(some.filter((one) => isFound(one, ''))).toHaveLength(2)
  })

  it('offers the tags, the most frequent first', () => {
    expect(tagsOf(some)).toEqual(['busy', 'roll', 'steady'])
  })
})

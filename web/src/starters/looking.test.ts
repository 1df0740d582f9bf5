import { describe, expect, it } from 'vitest'

import type { ListedStarter } from '@/api/library'
import { aLane } from '@/testing'
import { isFound, tagsOf } from './looking'

const ofLane = (name: string, tags: string[], fields: object = {}): ListedStarter => ({
  id: null, kind: 'lane', starter: { name, tags, lane: aLane('gull') }, fields: fields as Record<string, unknown>,
}) // prettier-ignore

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

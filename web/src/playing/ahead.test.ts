import { describe, expect, it } from 'vitest'

import { aLane, aScore } from '@/testing'
import { aheadOf } from './ahead'
import { Tape } from '@/sound/tape'

const BAR = 53760

describe('recording ahead', () => {
  it.each([
    ['about to begin', 0, 0],
    ['on a bar line', 2 * BAR, 2],
    ['within a bar', 2.1 * BAR, 3],
  ])('begins with the next bar line: %s', (_said, nowTick, first) => {
    const stretch = new Tape().begin(0, BAR, { score: aScore(aLane('thud')), dice: 1, patternId: 'a' })
    stretch.nowTick = nowTick
    expect(aheadOf(stretch, 4)).toMatchObject({ first, end: first + 4 })
  })
})

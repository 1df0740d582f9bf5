import { beforeEach, describe, expect, it } from 'vitest'

import { aLane, aScore } from '@/testing'
import { forgetTapes, storedTape, storeTape } from './stored'
import { Tape, type TapeNote } from '@/sound/tape'

const BAR = 53760
const score = aScore(aLane('thud'))

function aStretch(bars: number) {
  const stretch = new Tape().begin(0, BAR, { score, dice: 1, patternId: 'a' })
  stretch.nowTick = bars * BAR
  stretch.notes = Array.from({ length: bars }, (_, bar): TapeNote => ({
    laneId: 'thud', lane: 'Thud', ink: 0, start: bar * BAR, length: 9, time: 1, pitch: 36, velocity: 90, channel: 10,
    straight: bar * BAR,
  })) // prettier-ignore
  return stretch
}

describe('a stored tape', () => {
  beforeEach(() => localStorage.clear())

  it('comes back as it was', () => {
    const stretch = aStretch(4)
    storeTape(7, [stretch])
    expect(storedTape(7)).toEqual([stretch])
    expect(storedTape(8)).toEqual([])
  })

  it('holds the last sixteen bars', () => {
    storeTape(7, [aStretch(40)])
    expect(storedTape(7)[0]?.notes.map(({ start }) => start / BAR)).toEqual(
      Array.from({ length: 16 }, (_, at) => at + 24),
    )
  })

  it('is kept of the last few pieces', () => {
    for (const piece of [1, 2, 3, 4, 5]) storeTape(piece, [aStretch(piece)])
    expect([1, 2, 3, 4, 5].filter((piece) => storedTape(piece).length)).toHaveLength(3)
  })

  it('is nothing where what lies there cannot be read', () => {
    localStorage.setItem('jolly-lattice-tape-7', '{"stretches": [{"notes": 3}]}')
    expect(storedTape(7)).toEqual([])
    localStorage.setItem('jolly-lattice-tape-7', '{')
    expect(storedTape(7)).toEqual([])
  })

  it('is forgotten with the musician', () => {
    storeTape(7, [aStretch(2)])
    forgetTapes()
    expect(storedTape(7)).toEqual([])
  })
})

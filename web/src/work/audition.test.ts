import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'

import { aLane, aPiece, takePiece } from '@/testing'
import { aServer } from '@/testingServer'
import { useAudition } from './audition'

beforeEach(() => {
  setActivePinia(createPinia())
  aServer()
})

it('is seen and heard, and is no change', () => {
  const piece = takePiece(aLane('thud'), aLane('bell'))
  const audition = useAudition()
  audition.start((pattern) => ({ ...pattern, lanes: [] }))
  expect([piece.lanes, piece.score!.lanes]).toEqual([[], []])
  audition.end()
  expect([piece.lanes.length, piece.history.moments.length]).toEqual([2, 1])
})

it('of a whole piece sounds in its tempo, under the name of the pattern that is open', () => {
  const piece = takePiece(aLane('thud'))
  const other = { ...aPiece(aLane('reed')), tempo: 77 }
  useAudition().startPiece({ ...other, patterns: [{ ...other.patterns[0]!, id: 'z', name: 'Z' }] })
  expect([piece.score!.tempo, piece.document!.tempo, piece.pattern!.id]).toEqual([77, 120, 'a'])
  expect(piece.lanes.map(({ id }) => id)).toEqual(['reed'])
})

it('goes on after something is done to the document, and ends with any other change', () => {
  const piece = takePiece(aLane('thud'))
  const audition = useAudition()
  audition.start((pattern) => ({
    ...pattern,
    lanes: pattern.lanes.map((lane) => ({ ...lane, velocity: 5 })),
  }))
  audition.goOnAfter(() => piece.editLane('thud', 'anchored', (lane) => ({ ...lane, anchored: true })))
  expect(piece.lanes.map(({ velocity, anchored }) => [velocity, anchored])).toEqual([[5, true]])
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 9 }))
  expect([audition.isOn, piece.lanes[0]!.velocity]).toEqual([false, 9])
})

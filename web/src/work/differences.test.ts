import { describe, expect, it } from 'vitest'

import { aLane, aPiece } from '@/testing'
import { differencesOf, documentsOf } from './differences'

const at = (velocity: number) => aPiece(aLane('thud', { velocity }), aLane('chain'))
const step = (number: number, velocity: number) => ({
  number,
  label: `to ${velocity}`,
  document: at(velocity),
})

describe('what was changed of a piece', () => {
  it('is each moment as it differs from the one before', () => {
    const { moments, changes } = differencesOf(at(100), [step(2, 90), step(3, 80)], at(80))
    expect(moments.map(({ changes }) => changes)).toEqual([
      [{ op: 'replace', path: '/patterns/0/lanes/0/velocity', value: 90 }],
      [{ op: 'replace', path: '/patterns/0/lanes/0/velocity', value: 80 }],
    ])
    expect(changes).toEqual([])
  })

  it('makes the same documents again', () => {
    const steps = [step(2, 90), { number: 3, label: 'gone', document: aPiece(aLane('chain')) }]
    const last = aPiece(aLane('chain', { mute: true }), aLane('thud'))
    const again = documentsOf(at(100), differencesOf(at(100), steps, last))
    expect(again).toEqual({ moments: steps, document: last })
  })

  it('is all of the document where that says less than what changed', () => {
    const hits = (from: number) => Array.from({ length: 100 }, (_, at) => from + at)
    const lanes = ['a', 'b', 'c', 'd', 'e', 'f', 'g'].map((id, at) =>
      aLane(id, { source: { kind: 'drawn', steps: 128, hits: hits(at) } }),
    )
    const without = aPiece(...lanes.slice(1))
    const { changes } = differencesOf(aPiece(...lanes), [], without)
    expect(changes).toEqual([{ op: 'replace', path: '', value: without }])
  })

  it('is all of the document where nobody knows what was there before', () => {
    const { changes } = differencesOf(null, [], at(90))
    expect(changes).toEqual([{ op: 'replace', path: '', value: at(90) }])
  })
})

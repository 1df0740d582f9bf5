import { describe, expect, it } from 'vitest'

import type { Pattern } from '@/api/client'
import { aLane, aPiece } from '@/testing'
import {
  newId, newPatternName, valueAt, withField, withLane, withLaneMoved, withSilenceOf, withStep, withStepChances, withTurnedStep,
} from './document' // prettier-ignore

const drawn = aLane('thud', { source: { kind: 'drawn', steps: 16, hits: [0, 8, 12] } })

describe('changing a lane', () => {
  it('changes one field and shares the rest', () => {
    const piece = aPiece(aLane('thud'), aLane('bell'))
    const changed = withLane(piece, 'a', 'thud', (lane) => withField(lane, 'source.steps', 13))
    expect(valueAt(changed.patterns[0]!.lanes[0]!, 'source.steps')).toBe(13)
    expect(valueAt(piece.patterns[0]!.lanes[0]!, 'source.steps')).toBe(16)
    expect(changed.patterns[0]!.lanes[1]).toBe(piece.patterns[0]!.lanes[1])
  })

  it('drops the drawn hits that no longer fit', () => {
    expect(withField(drawn, 'source.steps', 10).source).toEqual({ kind: 'drawn', steps: 10, hits: [0, 8] })
  })

  it('sets and clears drawn steps, in order and each once', () => {
    expect(valueAt(withStep(drawn, 4, true), 'source.hits')).toEqual([0, 4, 8, 12])
    expect(valueAt(withStep(drawn, 8, true), 'source.hits')).toEqual([0, 8, 12])
    expect(valueAt(withStep(drawn, 8, false), 'source.hits')).toEqual([0, 12])
    expect(withStep(aLane('bell'), 1, true)).toEqual(aLane('bell'))
  })

  it('turns a step by hand, and back to its rule when it is turned again', () => {
    const turned = withTurnedStep(withTurnedStep(aLane('bell'), 5, true), 2, false)
    expect(turned.edits).toEqual([{ step: 2, hit: false }, { step: 5, hit: true }]) // prettier-ignore
    expect(withTurnedStep(turned, 5, false).edits).toEqual([{ step: 2, hit: false }])
  })

  it('gives a new lane an id that none has', () => {
    const ids = new Set(Array.from({ length: 50 }, () => newId('lane', [drawn])))
    expect(ids.size).toBe(50)
    for (const id of ids) expect(id).toMatch(/^[a-z0-9][a-z0-9-]{0,35}$/)
  })
})

describe('chances of steps', () => {
  it('are set beside each other, and 100 % says nothing', () => {
    const some = withStepChances(aLane('bell'), new Map([[5, 40], [2, 0]])) // prettier-ignore
    expect(some.step_chances).toEqual([{ step: 2, percent: 0 }, { step: 5, percent: 40 }]) // prettier-ignore
    expect(withStepChances(some, new Map([[2, 100]])).step_chances).toEqual([{ step: 5, percent: 40 }])
  })
})

describe('lanes and patterns', () => {
  it('are put into another order', () => {
    const lanes = ['a', 'b', 'c'].map((id) => aLane(id))
    expect(withLaneMoved(lanes, 0, 2).map(({ id }) => id)).toEqual(['b', 'c', 'a'])
  })

  it('are named by the first letter that is free', () => {
    const patterns = aPiece().patterns
    expect(newPatternName(patterns)).toBe('B')
    expect(newPatternName([{ ...patterns[0]!, name: 'B' }])).toBe('A')
  })

  it('keep mute and solo as they stand when the document goes elsewhere', () => {
    const at = (velocity: number, mute = false) => aPiece(aLane('thud', { velocity, mute }))
    expect(withSilenceOf(at(100), at(50, true))).toEqual(at(100, true))
    expect(withSilenceOf(at(100), at(50))).toEqual(at(100))
  })

  it('are silenced in one pattern and not in another that has the same lane', () => {
    const [one] = aPiece(aLane('thud')).patterns
    const [muted] = aPiece(aLane('thud', { mute: true })).patterns
    const both = (a: Pattern, b: Pattern) => ({ ...aPiece(), patterns: [a, { ...b, id: 'b' }] })
    expect(withSilenceOf(both(one!, one!), both(muted!, one!))).toEqual(both(muted!, one!))
  })
})

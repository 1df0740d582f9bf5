import { describe, expect, it } from 'vitest'

import type { Pattern } from '@/api/client'
import { aLane, aPiece } from '@/testing'
import {
  newId, newPatternName, valueAt, withField, withLane, withMoved, withSilenceOf, withStep, withStripLength, withStripValues, withTurnedStep, withValueAt,
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

  it('turns a step by hand, and leaves no hand on one that its rule says the same of', () => {
    const turned = withTurnedStep(withTurnedStep(aLane('bell'), 5, true, false), 2, false, true)
    expect(turned.edits).toEqual([{ step: 2, hit: false }, { step: 5, hit: true }]) // prettier-ignore
    expect(withTurnedStep(turned, 5, false, false).edits).toEqual([{ step: 2, hit: false }])
    // The numbers moved, and the rule hits there too: a rest needs a hand of its own.
    expect(withTurnedStep(turned, 5, false, true).edits).toEqual([{ step: 2, hit: false }, { step: 5, hit: false }]) // prettier-ignore
  })

  it('gives a new lane an id that none has', () => {
    const ids = new Set(Array.from({ length: 50 }, () => newId('lane', [drawn])))
    expect(ids.size).toBe(50)
    for (const id of ids) expect(id).toMatch(/^[a-z0-9][a-z0-9-]{0,35}$/)
  })
})

describe('strips', () => {
  const chance = { path: 'chance_strip', is_free: false }

  it('are set beside each other, and go away when nothing of them is left', () => {
    const some = withStripValues(aLane('bell'), chance, new Map([[2, 40], [0, 0]])) // prettier-ignore
    expect(some.chance_strip?.values).toEqual([0, null, 40])
    const fewer = withStripValues(some, chance, new Map([[2, null]]))
    expect(fewer.chance_strip?.values).toEqual([0])
    expect(withStripValues(fewer, chance, new Map([[0, null]])).chance_strip).toBeNull()
  })

  it('of a length of their own keep it', () => {
    const free = withStripLength(aLane('bell'), chance, 3)
    expect(free.chance_strip).toMatchObject({ values: [null, null, null], free: { advance: 'step' } })
    const painted = withStripValues(free, { ...chance, is_free: true }, new Map([[2, 50]]))
    const plain = withStripValues(painted, { ...chance, is_free: true }, new Map([[2, null]]))
    expect(plain.chance_strip?.values).toHaveLength(3)
    expect(withStripLength(painted, chance, 2).chance_strip?.values).toEqual([null, null])
  })

  it('that send controls are one of several', () => {
    const lane = {
      ...aLane('bell'),
      control_strips: [1, 74].map((controller) => ({ controller, values: [] })),
    }
    const painted = withStripValues(lane, { path: 'control_strips.1', is_free: false }, new Map([[0, 9]]))
    expect(painted.control_strips.map(({ values }) => values)).toEqual([[], [9]])
  })
})

describe('lanes and patterns', () => {
  it('are put into another order', () => {
    const lanes = ['a', 'b', 'c'].map((id) => aLane(id))
    expect(withMoved(lanes, 0, 2).map(({ id }) => id)).toEqual(['b', 'c', 'a'])
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
    const piece = { ...at(100), patterns: [...at(100).patterns, { ...at(100).patterns[0]!, id: 'other' }] }
    const one = piece.patterns[1]!
    const muted = { ...one, lanes: one.lanes.map((lane) => ({ ...lane, mute: true })) }
    // What does not change stays the same object.
    expect(withSilenceOf(piece, piece)).toBe(piece)
    const changed = withSilenceOf(piece, { ...piece, patterns: [piece.patterns[0]!, muted] })
    expect(changed.patterns[0]).toBe(piece.patterns[0])
    expect(changed.patterns[1]).toEqual(muted)
  })

  it('are silenced in one pattern and not in another that has the same lane', () => {
    const [one] = aPiece(aLane('thud')).patterns
    const [muted] = aPiece(aLane('thud', { mute: true })).patterns
    const both = (a: Pattern, b: Pattern) => ({ ...aPiece(), patterns: [a, { ...b, id: 'b' }] })
    expect(withSilenceOf(both(one!, one!), both(muted!, one!))).toEqual(both(muted!, one!))
  })
})

describe('a value in a row of rows', () => {
  it('is moved where it lies, and the others stay the same objects', () => {
    const pattern = {
      detours: [
        { bars: 1, detour: { distance: 30 } },
        { bars: 2, detour: { distance: 9 } },
      ],
    }
    const moved = withValueAt(pattern, 'detours.0.detour.distance', 45)
    expect(moved.detours[0]).toEqual({ bars: 1, detour: { distance: 45 } })
    expect(moved.detours[1]).toBe(pattern.detours[1])
  })
})

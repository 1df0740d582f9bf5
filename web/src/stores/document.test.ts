import { describe, expect, it } from 'vitest'

import { aLane, aPiece } from '@/testing'
import { newLaneId, valueAt, withField, withLane, withSilenceOf, withStep, withTurnedStep } from './document'
import { baseOf, noHistory, redo, remember, undo } from './history'

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
    const ids = new Set(Array.from({ length: 50 }, () => newLaneId([drawn])))
    expect(ids.size).toBe(50)
    for (const id of ids) expect(id).toMatch(/^[a-z0-9][a-z0-9-]{0,35}$/)
  })
})

describe('history', () => {
  const at = (velocity: number, mute = false) => aPiece(aLane('thud', { velocity, mute }))

  it('goes back and forth', () => {
    let history = remember(noHistory, 'to 90', at(100), at(90), null)
    history = remember(history, 'to 80', at(90), at(80), null)
    const back = undo(history, at(80))!
    expect(back.document).toEqual(at(90))
    expect(undo(back.history, back.document)!.document).toEqual(at(100))
    expect(redo(back.history, back.document)!.document).toEqual(at(80))
    expect(undo(noHistory, at(1))).toBeNull()
  })

  it('takes one movement of the hand as one change', () => {
    let history = remember(noHistory, 'to 99', at(100), at(99), 'drag')
    expect(baseOf(history, at(99), 'drag')).toEqual(at(100))
    history = remember(history, 'to 98', at(100), at(98), 'drag')
    expect(history.done.map(({ label }) => label)).toEqual(['to 98'])
    expect(undo(history, at(98))!.document).toEqual(at(100))
  })

  it('forgets what was undone once something else is done', () => {
    const back = undo(remember(noHistory, 'to 90', at(100), at(90), null), at(90))!
    expect(remember(back.history, 'to 70', at(100), at(70), null).undone).toEqual([])
  })

  it('leaves mute and solo as they are', () => {
    const history = remember(noHistory, 'to 90', at(100), at(90), null)
    expect(undo(history, at(90, true))!.document).toEqual(at(100, true))
    expect(withSilenceOf(at(100), at(50))).toEqual(at(100))
  })
})

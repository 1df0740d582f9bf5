import { describe, expect, it } from 'vitest'

import { aLane, aPiece } from '@/testing'
import {
  baseOf, lastNumber, momentBeside, remember, standingAt, withHeard, withLines, withoutLast, type History,
} from './history' // prettier-ignore

const at = (velocity: number) => aPiece(aLane('thud', { velocity }))
const lines = [
  { number: 1, label: 'New piece', at: '', heard: false, name: '' },
  { number: 2, label: 'to 100', at: '', heard: false, name: '' },
]
const opened: History = withLines({ moments: [], standsAt: 2 }, lines)
const labels = ({ moments }: History) => moments.map(({ label }) => label)
const did = (history: History, before: number, after: number, gesture: string | null = null) =>
  remember(history, `to ${after}`, at(before), at(after), gesture).history

describe('history', () => {
  it('goes on from what the server has', () => {
    const history = did(opened, 100, 90)
    expect(labels(history)).toEqual(['New piece', 'to 100', 'to 90'])
    expect(history.standsAt).toBe(3)
    expect(momentBeside(history, -1)).toMatchObject({ number: 2, document: at(100) })
    expect(momentBeside(history, 1)).toBeNull()
  })

  it('takes one movement of the hand as one moment', () => {
    let history = did(opened, 100, 99, 'drag')
    expect(baseOf(history, at(99), 'drag')).toEqual(at(100))
    history = did(history, 100, 98, 'drag')
    expect(labels(history)).toEqual(['New piece', 'to 100', 'to 98'])
    expect(baseOf(history, at(98), 'another')).toEqual(at(98))
  })

  it('is without its last moment as it was before', () => {
    expect(withoutLast(did(opened, 100, 99))).toMatchObject({ standsAt: 2 })
    expect(labels(withoutLast(did(opened, 100, 99)))).toEqual(labels(opened))
  })

  it('stands wherever it is asked to, and what lies ahead stays', () => {
    const back = standingAt(did(opened, 100, 90), 1, at(1))
    expect(back.standsAt).toBe(1)
    expect(momentBeside(back, 1)?.label).toBe('to 100')
    expect(lastNumber(back)).toBe(3)
  })

  it('loses nothing when something else is done after going back', () => {
    const back = standingAt(did(did(opened, 100, 90), 90, 80), 3, at(90))
    const { history, fresh } = remember(back, 'to 70', at(90), at(70), null)
    expect(labels(history)).toEqual(['New piece', 'to 100', 'to 90', 'to 80', 'Back to: to 90', 'to 70'])
    expect(fresh.map(({ number }) => number)).toEqual([5, 6])
    expect(momentBeside(history, -1)?.document).toEqual(at(90))
  })

  it('begins a new moment with a movement that goes on after it was undone', () => {
    const dragged = did(opened, 100, 90, 'drag')
    const undone = standingAt(dragged, 2, at(100))
    expect(baseOf(undone, at(100), 'drag')).toEqual(at(100))
    expect(labels(did(undone, 100, 80, 'drag'))).toEqual([
      'New piece',
      'to 100',
      'to 90',
      'Back to: to 100',
      'to 80',
    ])
  })
})

describe('what was only heard', () => {
  it('is a place of the trail that undo, redo and the next change pass by', () => {
    const heard = withHeard(opened, 'Heard: no. 7', at(50)).history
    expect(heard.standsAt).toBe(2)
    expect(heard.moments.at(-1)).toMatchObject({ number: 3, heard: true })
    expect(momentBeside(heard, -1)?.number).toBe(1)
    expect(momentBeside(heard, 1)).toBe(null)
    const changed = did(heard, 100, 90)
    expect(labels(changed)).toEqual(['New piece', 'to 100', 'Heard: no. 7', 'to 90'])
    expect(momentBeside(changed, -1)?.number).toBe(2)
  })
  it('lies within a gesture without breaking what it began from', () => {
    const begun = did(withHeard(opened, 'Heard', at(50)).history, 100, 90, 'drag')
    expect(baseOf(begun, at(90), 'drag')).toEqual(at(100))
    expect(withoutLast(begun).standsAt).toBe(2)
  })
})

import { describe, expect, it } from 'vitest'

import { aLane, aScore } from '@/testing'
import { draggedBars, lastWholeBars } from '@/tape/choosing'
import { Tape, tapeOf, type TapeNote, type TapeStretch } from './tape'

const BAR = 53760
const score = aScore(aLane('thud'), aLane('bell'))

function played(tape: Tape, from: number, now: number, follows = false): TapeStretch {
  const stretch = tape.begin(from, BAR, { score, dice: 1, patternId: 'a' }, follows)
  stretch.nowTick = now
  return stretch
}
const note = (laneId: string, start: number): TapeNote => ({
  laneId, lane: laneId, ink: 0, start, length: 100, time: 0, pitch: 36, velocity: 100, tune: 0, channel: 10, straight: start,
}) // prettier-ignore

describe('the bars on show', () => {
  it('are the last sixteen, the newest last, the running one in part', () => {
    const tape = new Tape()
    played(tape, 0, 20.25 * BAR)
    const bars = tape.lastBars()
    expect(bars.map(({ bar }) => bar)).toEqual(Array.from({ length: 16 }, (_, at) => at + 5))
    expect(bars.at(-1)!.sounded).toBeCloseTo(0.25)
  })

  it('reach back over a stop into the stretch before', () => {
    const tape = new Tape()
    const first = played(tape, 0, 3 * BAR)
    const second = played(tape, 8 * BAR, 9.5 * BAR)
    expect(tape.lastBars().map(({ stretch, bar }) => [stretch === first ? 1 : stretch === second ? 2 : 0, bar])).toEqual([
      [1, 0], [1, 1], [1, 2], [2, 8], [2, 9],
    ]) // prettier-ignore
  })

  it('forget a stretch of nothing', () => {
    const tape = new Tape()
    played(tape, 0, 0)
    played(tape, 0, BAR)
    expect(tape.stretches.length).toBe(1)
  })
})

describe('what is kept', () => {
  it('is the last whole bars, never the running one', () => {
    const tape = new Tape()
    played(tape, 0, 6.9 * BAR)
    expect(lastWholeBars(tape.lastBars(), 4)).toMatchObject({ first: 2, end: 6 })
    expect(lastWholeBars(tape.lastBars(), 8)).toMatchObject({ first: 0, end: 6 })
  })

  it('leaves out a bar that playing began within', () => {
    const tape = new Tape()
    played(tape, 0.5 * BAR, 3 * BAR)
    expect(lastWholeBars(tape.lastBars(), 8)).toMatchObject({ first: 1, end: 3 })
  })

  it('comes from the newest stretch in which a whole bar sounded', () => {
    const tape = new Tape()
    const whole = played(tape, 0, 2 * BAR)
    played(tape, 0, 0.5 * BAR)
    expect(tape.newestWhole()).toBe(whole)
    expect(lastWholeBars(tape.lastBars(), 1)?.stretches).toEqual([whole])
  })

  it('is what a drag touches, snapped to whole bars of the stretch where it began', () => {
    const tape = new Tape()
    const first = played(tape, 0, 3 * BAR)
    played(tape, 0, 2.5 * BAR)
    const bars = tape.lastBars()
    expect(draggedBars(bars, 1, 4)).toMatchObject({ stretches: [first], first: 1, end: 3, from: 1, to: 3 })
    expect(draggedBars(bars, 5, 5)).toBeNull() // the running bar
    expect(draggedBars(bars, 4, 3)).toMatchObject({ first: 0, end: 2 })
    expect(draggedBars([], 0, 0)).toBeNull()
  })

  it('keeps what came too late beside what sounded, but for lanes that are gone', () => {
    const stretch = played(new Tape(), 0, 3 * BAR)
    stretch.notes = [note('thud', 10)]
    stretch.leftOut = [note('bell', 5), note('thud', BAR), note('gone', 7)] as never
    const { tracks } = tapeOf(stretch)
    expect(tracks.map(({ lane_id, notes, late }) => [lane_id, notes.length, late.length])).toEqual([['thud', 1, 1], ['bell', 0, 1]]) // prettier-ignore
    expect(tracks[0]?.late_straights).toEqual([BAR])
  })

  it('goes on over a switch, and over no stop', () => {
    const tape = new Tape()
    played(tape, 0, 3 * BAR)
    const first = played(tape, 0, 2.5 * BAR)
    const second = played(tape, 0, 2.2 * BAR, true)
    const bars = tape.lastBars() // 1 2 3 | 1 2 half | 1 2 and the running one
    expect(lastWholeBars(bars, 3)).toMatchObject({
      stretches: [first, second],
      first: 1,
      end: 2,
      from: 4,
      to: 8,
    })
    expect(lastWholeBars(bars, 8)).toMatchObject({ stretches: [first, second], first: 0, end: 2, from: 3 })
    expect(draggedBars(bars, 4, 6)).toMatchObject({ stretches: [first, second], first: 1, end: 1 })
    expect(draggedBars(bars, 4, 1)).toMatchObject({ stretches: [first], first: 0, end: 2 })
    expect([tape.runOf(second), tape.runOf(first)]).toEqual([[first, second], [first]])
  })

  it('goes to the server lane by lane in the order of the lanes, without what had not begun', () => {
    const tape = new Tape()
    const stretch = played(tape, 0, BAR + 0.5)
    stretch.notes = [note('bell', 0), note('thud', 10), note('bell', BAR), note('thud', BAR + 1)]
    expect(tapeOf(stretch)).toMatchObject({
      from_tick: 0,
      now_tick: BAR,
      tracks: [
        { lane: 'thud', notes: [[10, 100, 36, 100, 0]] },
        { lane: 'bell', notes: [[0, 100, 36, 100, 0]] },
      ],
    })
  })

  it('takes straight times and controls along', () => {
    const tape = new Tape()
    const stretch = played(tape, 0, BAR + 0.5)
    stretch.notes = [{ ...note('thud', 10), straight: 0 }]
    const moved = { laneId: 'thud', lane: 'thud', ink: 0, controller: 74, channel: 10 }
    stretch.controls = [{ ...moved, tick: 5, value: 9 }, { ...moved, tick: BAR, value: 10 }] // prettier-ignore
    expect(tapeOf(stretch).tracks).toMatchObject([{ straights: [0], controls: [[5, 74, 9]] }])
  })
})

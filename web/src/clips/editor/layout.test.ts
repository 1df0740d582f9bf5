// @vitest-environment node
import { describe, expect, it } from 'vitest'

import { tickIn, xIn } from '@/lattice/geometry/scale'
import { placeRead, placeSaid } from '@/sound/time'

import {
  countOf, firstFrom, noteUnder, notesWithin, rowOf, rowsOf, turned,
} from './layout' // prettier-ignore

type Note = [number, number, number, number, number]
const track = (lane: string, ...notes: Note[]) => ({
  lane,
  ink: 0,
  channel: 10,
  notes,
  controls: [],
  sound: null,
  lane_id: null,
  moved: [],
})
const tracks = [
  track('Thud', [0, 100, 36, 90, 0], [500, 100, 36, 90, 0]),
  track('Bell', [500, 400, 60, 90, 0]),
]
const window = { firstTick: 0, perTick: 1, rowHeight: 20, top: 0 }
const meter = { numerator: 7, denominator: 8 } as const

describe('rows', () => {
  it('are the tracks, or all pitches around those that sound, the highest first', () => {
    expect(rowsOf(tracks, 'drums', String).map(({ label }) => label)).toEqual(['Thud', 'Bell'])
    const rows = rowsOf(tracks, 'melody', String)
    expect([rows[0]?.pitch, rows.at(-1)?.pitch, rows.length]).toEqual([63, 33, 31])
    expect(rowOf(rows, 1, 60)).toBe(3)
  })
})

describe('a note', () => {
  const rows = rowsOf(tracks, 'drums', String)
  it('is found under the hand, at its end or not', () => {
    expect(noteUnder(tracks, rows, 550, 10, window)).toEqual({ at: [0, 1], isEnd: false })
    expect(noteUnder(tracks, rows, 598, 10, window)).toEqual({ at: [0, 1], isEnd: true })
    expect(noteUnder(tracks, rows, 550, 30, window)).toEqual({ at: [1, 0], isEnd: false })
    expect(noteUnder(tracks, rows, 300, 10, window)).toBeNull()
  })
  it('is found however small it is drawn', () => {
    const far = { ...window, perTick: 0.01 }
    expect(noteUnder(tracks, rows, 10, 10, far)?.at).toEqual([0, 1])
  })
  it('lies in every box that it touches', () => {
    expect(notesWithin(tracks, rows, [450, 0, 700, 39], window)).toEqual([[1], [0]])
    expect(notesWithin(tracks, rows, [50, 0, 60, 10], window)).toEqual([[0], []])
  })
  it('is turned in and out of a choice', () => {
    const one = turned([], [1, 0], 2)
    expect(one).toEqual([[], [0]])
    expect(countOf(turned(one, [0, 1], 2))).toBe(2)
    expect(turned(one, [1, 0], 2)).toEqual([[], []])
  })
})

describe('places', () => {
  it('turn from ticks to pixels and back', () => {
    const view = { ...window, firstTick: 1000, perTick: 0.25 }
    expect(tickIn(xIn(3456, view), view)).toBe(3456)
  })
  it('are said and read as people count', () => {
    for (const tick of [0, 6, 6720, 47040 * 3 + 6720 * 2 + 17])
      expect(placeRead(placeSaid(tick, meter), meter)).toBe(tick)
    expect(placeSaid(47040 * 3 + 6720 * 2 + 17, meter)).toBe('4:3:18')
    expect(placeRead('2', meter)).toBe(47040)
    expect([placeRead('0:1', meter), placeRead('a', meter), placeRead('1:1:1:1', meter)]).toEqual([
      null,
      null,
      null,
    ])
  })
  it('are found in the order of time', () => {
    expect([
      firstFrom(tracks[0]!.notes, 0),
      firstFrom(tracks[0]!.notes, 1),
      firstFrom(tracks[0]!.notes, 501),
    ]).toEqual([0, 1, 2])
  })
})

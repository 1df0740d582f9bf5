import { describe, expect, it } from 'vitest'

import { aPicture } from '@/testing'
import { MAX_RADIUS, radiusOf } from './beads'
import { keptThreadOf } from './kept'
import { PAD, stepNear, tickAt, type TimeScale, xOf } from './scale'
import { silentUnder, threadOf } from './thread'

const scale: TimeScale = { firstTick: 1000, endTick: 1800, width: 800 + 2 * PAD }
const starts = [1000, 1100, 1200, 1300, 1400, 1500, 1600, 1700]
const lane = aPicture({
  starts,
  numbers: [0, 1, 2, 3, 0, 1, 2, 3],
  hits: [0, 2, 4, 6],
  sounds: [1, 1, 1, 0],
  velocities: [127, 64, 127, 64],
  lengths: [100, 100, 100, 100],
  chances: [100, 100, 50, 50],
  cycle_starts: [1000, 1400],
  cycle_ends: [1400, 1800],
})

describe('true time', () => {
  it('gives equal durations equal distances, and finds its way back', () => {
    expect(xOf(1000, scale)).toBe(PAD)
    expect(xOf(1200, scale) - xOf(1100, scale)).toBe(xOf(1700, scale) - xOf(1600, scale))
    expect(tickAt(xOf(1234, scale), scale)).toBeCloseTo(1234)
  })
})

describe('a thread', () => {
  const thread = threadOf(lane, scale, 30)

  it('lies on a band over the first whole cycle in view, with a stitch where each begins', () => {
    expect(thread.band?.width).toBe(400)
    expect(thread.stitches.length).toBe(2)
  })

  it('groups beads by what they look like: in the band or later, sounding or not', () => {
    expect(thread.beads.map(({ isInBand, sounds }) => [isInBand, sounds])).toEqual([[true, true], [false, true], [false, false]]) // prettier-ignore
  })

  it('draws a hit that another lane covers as one that does not sound, and says whose is heard', () => {
    const { beads, silent } = threadOf({ ...lane, louder: ['', 'Front', '', ''] }, scale, 32)
    expect(beads.map(({ isInBand, sounds }) => [isInBand, sounds])).toContainEqual([true, false])
    expect(thread.beads.map(({ isInBand, sounds }) => [isInBand, sounds])).not.toContainEqual([true, false])
    expect(silent.map(({ text }) => text)).toEqual([silentUnder('Front')])
  })
  it('fills a bead as far as its chance', () => {
    expect(thread.beads[0]).toMatchObject({ ring: '', fill: '' })
    expect(thread.beads[1]?.ring).not.toBe('')
    expect(thread.beads[1]?.fill).not.toBe('')
  })

  it('draws a tail only where a note is not as long as its step', () => {
    expect(thread.tails).toBe('')
    expect(threadOf({ ...lane, lengths: [300, 100, 100, 100] }, scale, 30).tails.match(/M/g)?.length).toBe(1)
  })

  it('carries a notch wherever a step was turned by hand', () => {
    expect(thread.notches).toBe('')
    expect(threadOf({ ...lane, edited: [1] }, scale, 30).notches.match(/M/g)?.length).toBe(2)
  })

  it('becomes marks where steps are too narrow for beads', () => {
    expect(threadOf(lane, { ...scale, width: 80 }, 30).isMarks).toBe(true)
  })

  it('ends its band where a restart cuts the cycle off', () => {
    expect(threadOf({ ...lane, cycle_ends: [1250, 1650] }, scale, 30).band?.width).toBe(250)
  })

  it('runs all along, or only where a lane sounds once', () => {
    expect(thread.line).toBe(`M0 30H${scale.width}`)
    expect(threadOf({ ...lane, is_gapped: true }, scale, 30).line.match(/M/g)?.length).toBe(2)
  })

  it('has no band where no cycle begins', () => {
    expect(threadOf({ ...lane, cycle_starts: [], cycle_ends: [] }, scale, 30).band).toBeNull()
  })
})

describe('beads', () => {
  it('grow with velocity and never touch their neighbours', () => {
    expect(radiusOf(127, 100)).toBe(MAX_RADIUS)
    expect(radiusOf(20, 100)).toBeLessThan(radiusOf(100, 100))
    for (const step of [9, 14, 20]) expect(2 * radiusOf(127, step)).toBeLessThan(step)
  })
})

describe('the step under the hand', () => {
  it('is the nearest one', () => {
    expect([900, 1049, 1051, 1690, 5000].map((tick) => stepNear(starts, tick))).toEqual([0, 0, 1, 7, 7])
    expect(stepNear([], 5)).toBe(-1)
  })
})

describe('a kept thread', () => {
  const scale = { firstTick: 0, endTick: 1000, width: 1000 + 2 * PAD }
  const kept = {
    name: 'Last crossing', starts: [0, 500], lengths: [100, 200], pitches: [0, 12], velocities: [127, 127], begins: [0, 1000],
  } // prettier-ignore
  it('is doubled, with a stitch where it begins again', () => {
    const thread = keptThreadOf(kept, scale, 80)
    expect(thread.lines.match(/M/g)).toHaveLength(2)
    expect(thread.stitches).toEqual([PAD, 1000 + PAD])
  })
  it('holds its notes, the higher ones higher, with tails as long as they last', () => {
    const { tails } = keptThreadOf(kept, scale, 80)
    expect(tails).toBe(`M${PAD} 57h100M${500 + PAD} 23h200`)
  })
})

// @vitest-environment node
import { describe, expect, it } from 'vitest'

import type { DrawnTake } from '@/api/takes'
import { offSaid, saidOf, sorted } from './sorting'

const take = (number: number, notes: number, distance: number): DrawnTake => ({
  number,
  measures: { notes, hits_a_bar: notes / 2, syncopation: 0.125, distance },
  tracks: [],
  sounds: [],
})
const takes = [take(1, 30, 0), take(2, 10, 0.5), take(3, 30, 0.25)]

describe('takes', () => {
  it('are sorted by any of their measures, those alike by number', () => {
    const numbers = (of: DrawnTake[]) => of.map(({ number }) => number)
    expect(numbers(sorted(takes, 'notes'))).toEqual([2, 1, 3])
    expect(numbers(sorted(takes, 'distance'))).toEqual([1, 3, 2])
    expect(numbers(sorted([...takes].reverse(), 'number'))).toEqual([1, 2, 3])
  })
  it('say their measures', () => {
    expect(saidOf(takes[1] as DrawnTake)).toBe('10 notes · 5 a bar · syncopation 13 %')
    expect(takes.map(offSaid)).toEqual(['the first', '50 % different', '25 % different'])
  })
})

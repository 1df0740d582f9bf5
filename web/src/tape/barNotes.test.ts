import { expect, test } from 'vitest'

import { aScore } from '@/testing'
import { notesOfBar } from './barNotes'
import { Tape, type TapeNote } from '@/sound/tape'

const note = (start: number) => ({ start, laneId: 'thud' }) as TapeNote
const starts = (notes: readonly TapeNote[]) => notes.map(({ start }) => start)

test('notes are found bar by bar, those that came since too', () => {
  const stretch = new Tape().begin(0, 100, { score: aScore(), dice: 1, patternId: 'a' })
  stretch.notes.push(note(0), note(99), note(100))
  expect(starts(notesOfBar(stretch, 0))).toEqual([0, 99])
  stretch.notes.push(note(150), note(90))
  expect(starts(notesOfBar(stretch, 0))).toEqual([0, 99, 90])
  expect(starts(notesOfBar(stretch, 1))).toEqual([100, 150])
  expect(notesOfBar(stretch, 7)).toEqual([])
})

test('what was withdrawn is no longer there', () => {
  const stretch = new Tape().begin(0, 100, { score: aScore(), dice: 1, patternId: 'a' })
  stretch.notes.push(note(0), note(50))
  notesOfBar(stretch, 0)
  stretch.notes = stretch.notes.filter(({ start }) => start === 0)
  expect(starts(notesOfBar(stretch, 0))).toEqual([0])
})

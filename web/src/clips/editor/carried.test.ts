import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'
import { aboutHowMany, carried, carriedMeaning, type Became } from './carried'

type Clip = Schemas['Clip']
/** A clip of so many notes on each of its tracks. */
const clipOf = (...counts: number[]) =>
  ({ tracks: counts.map((count) => ({ notes: Array.from({ length: count }, () => [0, 1, 36, 100, 0]) })) }) as unknown as Clip // prettier-ignore
const before = clipOf(3, 2)
const SENT = [[0], []]
/** The first note went to the second track, one of the second track is gone, and a new one came. */
const became: Became = { after: clipOf(2, 3), sent: SENT, now: [[], [1]], cameFrom: [1, 2, 4, 0, -1] }

it('leaves chosen what the edit left chosen', () => {
  expect(carried(SENT, before, became)).toBe(became.now)
})

it('finds notes that were chosen meanwhile where they are now', () => {
  expect(carried([[0, 2], [1]], before, became)).toEqual([[1], [0, 1]])
  expect(carried([[], [0]], before, became)).toEqual([[], []])
})

it('knows them by their places where none has moved', () => {
  const shorter = { after: clipOf(3, 1), sent: SENT, now: SENT, cameFrom: null }
  expect(carried([[2], [0, 1]], before, shorter)).toEqual([[2], [0]])
  const longer = { after: clipOf(3, 4), sent: SENT, now: SENT, cameFrom: null }
  expect(carried([[2], [0, 1]], before, longer)).toEqual([[2], [0, 1]])
})

it('paints the notes that the stroke was on, and does to all what was meant for all', () => {
  const stroke = { kind: 'paint', values: [[0, 1, 50], [1, 0, 60], [1, 1, 70]] } as const // prettier-ignore
  const values = stroke.values.map(([...value]): [number, number, number] => value)
  const painted = carriedMeaning({ clip: before, chosen: [], action: { ...stroke, values } }, became)
  expect(painted.action).toEqual({ kind: 'paint', values: [[0, 0, 50], [1, 0, 70]] }) // prettier-ignore
  expect([painted.clip, aboutHowMany(painted)]).toEqual([became.after, 2])
  const all = carriedMeaning({ clip: before, chosen: [], action: { kind: 'quantise' } }, became)
  expect([all.chosen, aboutHowMany(all)]).toEqual([[], 0])
})

/** Where notes lie on the editor's sheet: pure, in pixels. Times are ticks; what an edit does to them is the engine's. */
import type { Schemas } from '@/api/client'
import { pixelsIn, tickIn, xIn, type Zoom } from '@/lattice/geometry/scale'

type Track = Schemas['Clip']['tracks'][number]
export type View = 'drums' | 'melody'

/** A note's place: its track, and which of its notes. */
export type NoteAt = readonly [track: number, place: number]

/** What is in view: from `firstTick` on, `perTick` pixels a tick; rows of `rowHeight`, the first at `top` (scrolled). */
export interface Window extends Zoom {
  readonly rowHeight: number
  readonly top: number
}

/** A row of the sheet: a track, or in the melody view a pitch. */
export interface SheetRow {
  readonly label: string
  readonly track: number | null
  readonly pitch: number | null
}

/** Pitches shown above and below those that sound. */
const MARGIN = 3

/** The rows of a clip: its tracks, or all pitches around those that sound, the highest first, by the names that they have. */
export function rowsOf(tracks: readonly Track[], view: View, nameOf: (pitch: number) => string): SheetRow[] {
  if (view === 'drums') return tracks.map(({ lane }, track) => ({ label: lane, track, pitch: null }))
  const pitches = tracks.flatMap(({ notes }) => notes.map(([, , pitch]) => pitch))
  const lowest = Math.max(0, pitches.reduce((low, pitch) => Math.min(low, pitch), pitches[0] ?? 60) - MARGIN)
  const highest = Math.min(
    127,
    pitches.reduce((high, pitch) => Math.max(high, pitch), pitches[0] ?? 60) + MARGIN,
  )
  return Array.from({ length: highest - lowest + 1 }, (_, at) => {
    const pitch = highest - at
    return { label: nameOf(pitch), track: null, pitch }
  })
}

/** The row of a note. */
export function rowOf(rows: readonly SheetRow[], track: number, pitch: number): number {
  const highest = rows[0]?.pitch
  return highest === null || highest === undefined ? track : highest - pitch
}

export const rowAt = (y: number, { rowHeight, top }: Window) => Math.floor((y + top) / rowHeight)

/** Index of the first note that begins at `tick` or later; notes are in the order of time. */
export function firstFrom(notes: Track['notes'], tick: number): number {
  let [low, high] = [0, notes.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((notes[middle]?.[0] ?? 0) < tick) low = middle + 1
    else high = middle
  }
  return low
}

/** A note under the hand, and whether it is held at its end. Of several the last one drawn. */
export function noteUnder(
  tracks: readonly Track[],
  rows: readonly SheetRow[],
  x: number,
  y: number,
  window: Window,
): { at: NoteAt; isEnd: boolean } | null {
  const row = rowAt(y, window)
  let hit: { at: NoteAt; isEnd: boolean } | null = null
  tracks.forEach(({ notes }, track) => {
    const end = firstFrom(notes, tickIn(x + SLACK, window))
    for (let place = 0; place < end; place++) {
      const [start, length, pitch] = notes[place] as Track['notes'][number]
      const wide = Math.max(pixelsIn(length, window), MIN_WIDTH)
      const last = xIn(start, window) + wide
      if (last < x - SLACK || rowOf(rows, track, pitch) !== row) continue
      hit = { at: [track, place], isEnd: x > last - Math.min(END, wide / 3) }
    }
  })
  return hit
}
/** Pixels beside a note that still are on it, and those of its end by which it is drawn longer. */
const SLACK = 4
const END = 7
/** No note is drawn narrower, so that it can be taken hold of. */
export const MIN_WIDTH = 10

/** All notes that touch a box, by track. */
export function notesWithin(
  tracks: readonly Track[],
  rows: readonly SheetRow[],
  [left, top, right, bottom]: readonly [number, number, number, number],
  window: Window,
): number[][] {
  const [from, to] = [tickIn(left, window), tickIn(right, window)]
  const [first, last] = [rowAt(top, window), rowAt(bottom, window)]
  return tracks.map(({ notes }, track) =>
    notes.flatMap(([start, length, pitch], place) => {
      const row = rowOf(rows, track, pitch)
      return start < to && start + length > from && row >= first && row <= last ? [place] : []
    }),
  )
}

/** `chosen` with one note in or out. */
export function turned(
  chosen: readonly (readonly number[])[],
  [track, place]: NoteAt,
  count: number,
): number[][] {
  return Array.from({ length: count }, (_, at) => {
    const places = [...(chosen[at] ?? [])]
    if (at !== track) return places
    return places.includes(place)
      ? places.filter((one) => one !== place)
      : [...places, place].sort((a, b) => a - b)
  })
}

export const isChosen = (chosen: readonly (readonly number[])[], [track, place]: NoteAt) =>
  chosen[track]?.includes(place) ?? false
export const countOf = (chosen: readonly (readonly number[])[]) =>
  chosen.reduce((sum, places) => sum + places.length, 0)

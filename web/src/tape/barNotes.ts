/** The notes of each bar of a stretch, found without looking through all of them at every frame. */
import { barOf } from '@/sound/time'
import type { TapeNote, TapeStretch } from '@/sound/tape'

interface BarNotesCache {
  /** The row they were sorted from, and how far. */
  readonly notes: readonly TapeNote[]
  upTo: number
  readonly bars: Map<number, TapeNote[]>
  /** The lanes that they are of. */
  readonly lanes: Set<string>
}

const known = new WeakMap<TapeStretch, BarNotesCache>()
const NONE: readonly TapeNote[] = []

/** The notes that begin in a bar. Those that came since are sorted in; where some were taken away, all are sorted anew. */
export function notesOfBar(stretch: TapeStretch, bar: number): readonly TapeNote[] {
  let here = known.get(stretch)
  if (here?.notes !== stretch.notes || here.upTo > stretch.notes.length) {
    here = { notes: stretch.notes, upTo: 0, bars: new Map(), lanes: new Set() }
    known.set(stretch, here)
  }
  for (; here.upTo < stretch.notes.length; here.upTo++) {
    const note = stretch.notes[here.upTo] as TapeNote
    here.lanes.add(note.laneId)
    const at = barOf(note.start, stretch.barTicks)
    const row = here.bars.get(at)
    if (row) row.push(note)
    else here.bars.set(at, [note])
  }
  return here.bars.get(bar) ?? NONE
}

/** The lanes that have sounded in a stretch, those too that are gone. */
export function lanesOf(stretch: TapeStretch): ReadonlySet<string> {
  notesOfBar(stretch, 0)
  return known.get(stretch)?.lanes ?? new Set()
}

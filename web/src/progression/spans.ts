/** Lengths of chords as the document says them: bars where they are whole ones, else notes of the meter's beat. */
import type { Progression, Schemas } from '@/api/client'

export type PlacedChord = Progression['chords'][number]
type Span = PlacedChord['lasts']

const WHOLE = 4 * 13440
const KINDS = { plain: 1, dotted: 3 / 2, triplet: 2 / 3 } as const
const MOST_BARS = 16
const MOST_NOTES = 16

export function ticksOfSpan(span: Span, barTicks: number): number {
  if (span.kind === 'bars') return span.bars * barTicks
  const { note, kind, multiplier, divisor } = span.value
  return ((WHOLE / note) * KINDS[kind] * multiplier) / divisor
}

/** What lasts nearest to so many ticks: whole beats, at least one; halves of them where it is fine. */
export function lastsOf(ticks: number, meter: Schemas['Meter'], barTicks: number, isFine = false): Span {
  const note = Math.min(64, meter.denominator * (isFine ? 2 : 1)) as Schemas['StepValue']['note']
  const unit = WHOLE / note
  const count = Math.max(1, Math.round(ticks / unit))
  const bars = (count * unit) / barTicks
  if (Number.isInteger(bars) && bars <= MOST_BARS) return { kind: 'bars', bars }
  if (count <= MOST_NOTES)
    return { kind: 'note', value: { note, kind: 'plain', multiplier: count, divisor: 1 } }
  return { kind: 'bars', bars: Math.min(MOST_BARS, Math.max(1, Math.round(bars))) }
}

/** A progression to begin with: the first and the fourth of the chords of the scale, a bar each. */
export const begunWith = (scaleChords: readonly string[]): PlacedChord[] =>
  [scaleChords[0] ?? 'C', scaleChords[3] ?? scaleChords[1]]
    .filter((chord) => chord !== undefined)
    .map((chord) => ({ chord, inversion: 0, lasts: { kind: 'bars', bars: 1 } }))

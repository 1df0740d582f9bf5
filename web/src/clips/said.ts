/** What is said of a clip. People count bars from 1. */
import type { ClipLine } from '@/api/client'
import { barsSaid } from '@/sound/time'

export const factsOf = ({
  bars,
  notes,
  tempo,
  meter,
}: Pick<ClipLine, 'bars' | 'notes' | 'tempo' | 'meter'>): string =>
  `${bars} ${bars === 1 ? 'bar' : 'bars'} · ${tempo} BPM · ${meter.numerator}/${meter.denominator} · ${notes} notes`

export function originOf({ origin }: Pick<ClipLine, 'origin'>): string {
  if (!origin) return 'from a MIDI file'
  const bars = barsSaid(origin.first_bar, origin.bars)
  return `from ${origin.piece}, pattern ${origin.pattern}, ${bars}, dice ${origin.dice}`
}

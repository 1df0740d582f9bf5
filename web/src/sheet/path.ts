/** Notes of one line as one SVG path: thousands of them stay light. */
import type { Schemas } from '@/api/client'

interface Line {
  readonly perTick: number
  readonly y: number
  /** Half the height of the loudest note. */
  readonly r: number
  readonly lengthTicks: number
}

const round = (value: number) => Math.round(value * 10) / 10

/** The notes at the places that are meant, as rounded bars: as long as they sound, as high as they are loud. */
export function notesPath(
  notes: readonly Schemas['Note'][],
  isMeant: (place: number) => boolean,
  { perTick, y, r, lengthTicks }: Line,
): string {
  return notes
    .map(([start, length, , velocity], place) => {
      if (!isMeant(place)) return ''
      const half = r * (0.45 + 0.55 * (velocity / 127))
      const width = Math.max(Math.min(length, lengthTicks - start) * perTick - 1, 2 * half) - 2 * half
      const arc = `a${round(half)} ${round(half)} 0 0 1 0`
      return `M${round(start * perTick + half)} ${round(y - half)}h${round(width)}${arc} ${round(2 * half)}h${round(-width)}${arc} ${round(-2 * half)}z`
    })
    .join('')
}

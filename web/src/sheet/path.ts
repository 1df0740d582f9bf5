/** Notes of one line as one SVG path: thousands of them stay light. */
import type { Schemas } from '@/api/client'
import { xIn, type Zoom } from '@/lattice/geometry/scale'

interface Line {
  readonly zoom: Zoom
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
  { zoom, y, r, lengthTicks }: Line,
): string {
  return notes
    .map(([start, length, , velocity], place) => {
      if (!isMeant(place)) return ''
      const half = r * (0.45 + 0.55 * (velocity / 127))
      const [x, end] = [xIn(start, zoom), xIn(Math.min(start + length, lengthTicks), zoom)]
      const width = Math.max(end - x - 1, 2 * half) - 2 * half
      const arc = `a${round(half)} ${round(half)} 0 0 1 0`
      return `M${round(x + half)} ${round(y - half)}h${round(width)}${arc} ${round(2 * half)}h${round(-width)}${arc} ${round(-2 * half)}z`
    })
    .join('')
}

/** Which parts of a long sentence stay in sight. */
import type { Part } from '@/api/client'

const GAP = ' · '
/** Pixels that the "+" and "and 3 more" at the end take. */
const END = 112

/** Letters from which on a part may go on over the end of a line. */
const LONG = 38

const textOf = ({ words }: Part) => words.map(({ text }) => text).join('')

/** Whether a part is so long that it goes on over the end of a line; others stay in one piece. */
export const wraps = (part: Part): boolean => textOf(part).length > LONG

/**
 * The parts that fit into `lines` lines of `width` pixels. What does not fit is left out from the end, but never what is red:
 * that bends the result. `measure`: width of a text in pixels.
 */
export function foldedParts(
  parts: readonly Part[],
  width: number,
  lines: number,
  measure: (text: string) => number,
): { shown: readonly Part[]; left: number } {
  const shown = [...parts]
  const widths = new Map(parts.map((part) => [part, measure(textOf(part))]))
  const gap = measure(GAP)
  const fits = () => {
    let line = 1
    let used = 0
    shown.forEach((part, at) => {
      const wide = (widths.get(part) ?? 0) + (at ? gap : 0)
      if (wraps(part)) {
        line += Math.floor((used + wide) / width)
        used = (used + wide) % width
        return
      }
      if (used && used + wide > width) {
        line++
        used = 0
      }
      used += wide
    })
    if (used + END > width) line++
    return line <= lines
  }
  while (!fits()) {
    const last = shown.findLastIndex((part, at) => at > 0 && !part.red)
    if (last < 0) break
    shown.splice(last, 1)
  }
  return { shown, left: parts.length - shown.length }
}

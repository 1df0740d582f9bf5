/** Where things of a running order lie on its map. */
import type { OrderPicture, RowPicture } from '@/engine/order'

export const WIDTH = 1240
/** Pixels below which nothing is drawn of a bar, and which a chord's name needs. */
const NARROWEST = 1
const CHORD = 34

export const xAt = (tick: number, ticks: number): number => (ticks ? (tick / ticks) * WIDTH : 0)

/** A bar's column is as high as it is busy. */
export function barsOf(row: RowPicture, { ticks, most_hits }: OrderPicture, height: number) {
  const from = xAt(row.start, ticks)
  const width = (xAt(row.end, ticks) - from) / row.bars
  if (width < NARROWEST) return []
  return row.hits.map((hits, bar) => ({
    x: from + bar * width + width * 0.14,
    width: width * 0.72,
    height: most_hits ? (hits / most_hits) * height : 0,
  }))
}

/** The chords that have room for their names. */
export function chordsOf(row: RowPicture, ticks: number) {
  let free = 0
  return row.chords.flatMap(({ start, name }) => {
    const x = xAt(start, ticks)
    if (x < free) return []
    free = x + CHORD
    return [{ x, name }]
  })
}

/** The row at a share, 0-1, of the whole; the last where that is beyond it. */
export function placeAt(share: number, { rows, ticks }: OrderPicture): number {
  const tick = Math.min(1, Math.max(0, share)) * ticks
  return rows.find(({ end }) => end > tick)?.place ?? Math.max(0, rows.length - 1)
}

/** Where things of a running order lie on its map. */
import type { OrderPicture, RowPicture } from '@/engine/order'
import { shareAt, tickAtShare } from '@/lattice/geometry/scale'

export const WIDTH = 1240
/** Pixels below which nothing is drawn of a bar, and which a chord's name needs. */
const NARROWEST = 1
const CHORD = 34
/** How much of its bar a column fills. */
const FILLED = 0.72

const whole = (endTick: number) => ({ firstTick: 0, endTick })
export const xAt = (tick: number, endTick: number): number => WIDTH * shareAt(tick, whole(endTick))

/** A bar's column is as high as it is busy. */
export function columnsOf(row: RowPicture, { ticks, most_hits }: OrderPicture, height: number) {
  const from = xAt(row.start, ticks)
  const count = row.bars
  const end = xAt(row.end, ticks)
  const width = (end - from) / count
  if (width < NARROWEST) return []
  return row.hits.map((hits, at) => ({
    x: from + (at + (1 - FILLED) / 2) * width,
    width: width * FILLED,
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
  const tick = tickAtShare(share, whole(ticks))
  return rows.find(({ end }) => end > tick)?.place ?? Math.max(0, rows.length - 1)
}

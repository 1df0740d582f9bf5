import { describe, expect, it } from 'vitest'

import type { OrderPicture, RowPicture } from '@/engine/order'
import { chordsOf, columnsOf, placeAt, WIDTH, xAt } from './map'

const row = (place: number, start: number, end: number, hits: number[]): RowPicture => ({
  place, start, end, hits, pattern: 'a', first_bar: 0, bars: hits.length, repeat_bars: hits.length, bar_ticks: 100,
  dice: 1, parts: [], pace: '', begins: '0:00', chords: [],
}) // prettier-ignore
const order: OrderPicture = {
  rows: [row(0, 0, 400, [4, 8, 0, 2]), row(1, 400, 500, [1])], ticks: 500, bars: 5, lasts: '0:10', most_hits: 8,
} // prettier-ignore

describe('the map of an order', () => {
  it('is true to time', () => {
    expect([xAt(0, 500), xAt(400, 500), xAt(500, 500)]).toEqual([0, 0.8 * WIDTH, WIDTH])
  })

  it('has a column a bar, as high as it is busy', () => {
    const columns = columnsOf(order.rows[0]!, order, 80)
    expect(columns.map(({ height }) => height)).toEqual([40, 80, 0, 20])
    expect(columns[1]!.x - columns[0]!.x).toBeCloseTo(WIDTH / 5)
  })

  it('draws no bars that nobody could tell apart', () => {
    const long = row(
      0,
      0,
      500,
      Array.from({ length: 5000 }, () => 1),
    )
    expect(columnsOf(long, order, 80)).toEqual([])
  })

  it('names chords where there is room', () => {
    const chords = [0, 1, 200].map((start) => ({ start, end: start + 1, name: `C${start}` }))
    expect(chordsOf({ ...order.rows[0]!, chords }, 500).map(({ name }) => name)).toEqual(['C0', 'C200'])
  })

  it('knows which row lies where, and the last beyond the end', () => {
    expect([0, 0.79, 0.81, 3].map((share) => placeAt(share, order))).toEqual([0, 0, 1, 1])
  })
})

// @vitest-environment node
import { describe, expect, it } from 'vitest'

import { notesPath } from './path'

const line = { zoom: { firstTick: 0, perTick: 0.01 }, y: 10, r: 4, lengthTicks: 1000 }

describe('the notes of a line', () => {
  it('begin where they do, and end with the sheet', () => {
    const [first, second] = notesPath(
      [
        [0, 100, 36, 127, 0],
        [900, 5000, 36, 127, 0],
      ],
      () => true,
      { ...line, zoom: { firstTick: 0, perTick: 1 } },
    )
      .split('M')
      .slice(1)
    expect(first).toMatch(/^4 6h91a/)
    expect(second).toMatch(/^904 6h91a/)
  })
  it('are higher the louder they are, and never too small to see', () => {
    const loud = notesPath([[0, 1, 36, 127, 0]], () => true, line)
    const soft = notesPath([[0, 1, 36, 1, 0]], () => true, line)
    expect(loud).toContain('M4 6h0')
    expect(soft).toContain('h0a1.8')
  })
  it('are only those that are meant', () => {
    expect(
      notesPath(
        [
          [0, 1, 36, 1, 0],
          [5, 1, 36, 1, 0],
        ],
        (place) => place === 9,
        line,
      ),
    ).toBe('')
  })
})

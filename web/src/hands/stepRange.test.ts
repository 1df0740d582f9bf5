// @vitest-environment node
import { describe, expect, it } from 'vitest'

import { movedRange } from './stepRange'

const range = (first: number, last: number) => ({ first, last })

describe('a step range under the hand', () => {
  it('is taken by its ends', () => {
    expect(movedRange(range(0, 15), 16, 'last', -4)).toEqual(range(0, 11))
    expect(movedRange(range(2, 8), 16, 'first', 3)).toEqual(range(5, 8))
    expect(movedRange(range(2, 8), 16, 'first', -1)).toEqual(range(1, 8))
  })

  it('is moved as a whole, over the cycle’s end too', () => {
    expect(movedRange(range(2, 5), 16, 'both', 3)).toEqual(range(5, 8))
    expect(movedRange(range(12, 15), 16, 'both', 2)).toEqual(range(14, 1))
    expect(movedRange(range(0, 3), 16, 'both', -1)).toEqual(range(15, 2))
  })

  it('keeps at least one step and at most all', () => {
    expect(movedRange(range(2, 5), 16, 'last', -40)).toEqual(range(2, 2))
    expect(movedRange(range(2, 5), 16, 'first', 40)).toEqual(range(5, 5))
    expect(movedRange(range(0, 5), 16, 'last', 40)).toBeNull()
    expect(movedRange(range(3, 5), 16, 'last', 40)).toEqual(range(3, 2))
  })
})

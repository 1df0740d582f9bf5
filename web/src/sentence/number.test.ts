// @vitest-environment node
import { describe, expect, it } from 'vitest'

import { valueAfterDrag, valueOfTyping } from './number'

describe('a number under the hand', () => {
  it('rises with a drag up and is slow with Shift', () => {
    expect(valueAfterDrag(5, 16, 16, false)).toBe(7)
    expect(valueAfterDrag(5, -16, 16, false)).toBe(3)
    expect(valueAfterDrag(5, 16, 16, true)).toBe(5)
    expect(valueAfterDrag(60, 25, 127, false)).toBe(70)
  })

  it('is typed with a point or a comma, to as many decimals as it has', () => {
    expect(valueOfTyping('13', 0)).toBe(13)
    expect(valueOfTyping('-2', 0)).toBe(-2)
    expect(valueOfTyping('112,456', 2)).toBe(112.46)
    expect(valueOfTyping('2.6', 0)).toBe(3)
    for (const nothing of ['', '-', '1-2', null]) expect(valueOfTyping(nothing, 0)).toBeNull()
  })
})

import { describe, expect, it } from 'vitest'

import { aLane, aPiece } from '@/testing'
import { hasRate, rateOf, RATES, sayRate } from './stepRates'

const pattern = aPiece().patterns[0]!

describe('step values under one hand', () => {
  it('run from eighths to triplets of sixty-fourths, each faster than the one before', () => {
    expect(RATES.map(sayRate)).toEqual([
      '1/8', '1/8 triplet', '1/16', '1/16 triplet', '1/32', '1/32 triplet', '1/64', '1/64 triplet',
    ]) // prettier-ignore
  })

  it('begin where the lane is: its own step value, or the pattern’s', () => {
    expect(rateOf(aLane('clink'), pattern)).toBe(2)
    const own = aLane('clink', { step_value: RATES[5]! })
    expect(rateOf(own, pattern)).toBe(5)
    expect(hasRate(own, pattern, RATES[5]!)).toBe(true)
    expect(hasRate(own, pattern, RATES[4]!)).toBe(false)
  })

  it('lie beside what is none of them', () => {
    const dotted = aLane('clink', { step_value: { note: 8, kind: 'dotted', multiplier: 1, divisor: 1 } })
    expect(rateOf(dotted, pattern)).toBe(-1)
    expect(rateOf(aLane('clink', { span: { kind: 'bars', bars: 1 } }), pattern)).toBe(-1)
  })
})

// @vitest-environment node
import { describe, expect, it } from 'vitest'

import { line, Stroke } from './valuesAlong'

describe('a stroke over values', () => {
  it('leaves no gap however fast the hand', () => {
    expect([...line([2, 10], [5, 40])]).toEqual([[2, 10], [3, 20], [4, 30], [5, 40]]) // prettier-ignore
    expect([...line([3, 9], [1, 5])]).toEqual([[3, 9], [2, 7], [1, 5]]) // prettier-ignore
    expect([...line([3, 9], [3, 5])]).toEqual([[3, 9]])
  })

  it('draws along by hand, and goes over itself', () => {
    const stroke = new Stroke([0, 10])
    stroke.to([2, 10], false)
    expect([...stroke.to([1, 50], false)]).toEqual([[0, 10], [1, 50], [2, 10]]) // prettier-ignore
  })

  it('with Shift is one straight ramp from where it began', () => {
    const stroke = new Stroke([0, 0])
    stroke.to([3, 99], false)
    expect([...stroke.to([2, 100], true)]).toEqual([[0, 0], [1, 50], [2, 100]]) // prettier-ignore
  })
})

import { describe, expect, it } from 'vitest'

import type { Point } from '@/engine/around'
import { boxOf, dotsOf, isInside, nearest, towards } from './plot'

const point = (number: number, syncopation: number, hits_a_bar: number): Point => ({
  number,
  syncopation,
  hits_a_bar,
  evenness: 1,
  distance: number,
})
const POINTS = [point(-1, 0.2, 20), point(0, 0, 10), point(1, 0.4, 10), point(2, 0.4, 30), point(3, 0.1, 28)]

describe('the plot of a field', () => {
  it('lays syncopation across and hits up', () => {
    const [start, sparse, , busy] = dotsOf(POINTS, 'beat', 400, 300)
    expect(sparse!.x).toBeLessThan(start!.x)
    expect(busy!.x).toBeGreaterThan(start!.x)
    expect(busy!.y).toBeLessThan(start!.y)
  })
  it('puts what is all alike in the middle', () => {
    expect(dotsOf(POINTS, 'shape', 400, 300).every(({ x }) => x === 200)).toBe(true)
  })
  it('finds what is under the pointer, and nothing where nothing is near', () => {
    const dots = dotsOf(POINTS, 'beat', 400, 300)
    expect(nearest(dots, { x: dots[3]!.x + 4, y: dots[3]!.y }, 20)).toBe(dots[3])
    expect(nearest(dots, { x: 5, y: 5 }, 20)).toBe(null)
  })
  it('walks by arrow keys from point to point, and stays at the edge', () => {
    const dots = dotsOf(POINTS, 'beat', 400, 300)
    const [start, , right, top] = dots as [(typeof dots)[0], unknown, (typeof dots)[0], (typeof dots)[0]]
    expect(towards(dots, start, 'ArrowUp')?.point.number).toBe(3)
    expect(towards(dots, right, 'ArrowUp')).toBe(top)
    expect(towards(dots, top, 'ArrowRight')).toBe(null)
    expect(towards(dots, top, 'ArrowLeft')?.point.number).toBe(3)
    expect(towards(dots, start, 'Enter')).toBe(null)
  })
  it('keeps what lies in a box, whichever corner it was drawn from', () => {
    const box = boxOf({ x: 100, y: 90 }, { x: 20, y: 10 })
    expect(isInside({ x: 50, y: 50 }, box)).toBe(true)
    expect(isInside({ x: 101, y: 50 }, box)).toBe(false)
  })
})

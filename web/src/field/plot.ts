/** Where the points of a field lie on the screen, and which is next to where. */
import type { Point } from '@/engine/around'

export interface Place {
  readonly x: number
  readonly y: number
}
export interface Dot extends Place {
  readonly point: Point
}
export interface Box {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
export type Axes = 'beat' | 'shape'
const PAD = 44

/** What lies across and up: syncopation and hits, or evenness and distance. */
const measures = (point: Point, axes: Axes): [number, number] =>
  axes === 'beat' ? [point.syncopation, point.hits_a_bar] : [point.evenness, point.distance]

/** The start first, then each point, laid out over `width` x `height` pixels. */
export function dotsOf(all: readonly Point[], axes: Axes, width: number, height: number): Dot[] {
  const rows = all.map((point) => measures(point, axes))
  const spans = [0, 1].map((axis) => {
    const values = rows.map((row) => row[axis as 0 | 1])
    const [low, high] = [Math.min(...values), Math.max(...values)]
    return { low, span: high - low || 1, flat: high === low }
  })
  const at = (value: number, axis: 0 | 1, length: number) => {
    const { low, span, flat } = spans[axis] as (typeof spans)[number]
    return PAD + (flat ? 0.5 : (value - low) / span) * (length - 2 * PAD)
  }
  return all.map((point, place) => {
    const [across, up] = rows[place] as [number, number]
    return { point, x: at(across, 0, width), y: height - at(up, 1, height) }
  })
}

export function nearest(dots: readonly Dot[], { x, y }: Place, within: number): Dot | null {
  let nearestDot: Dot | null = null
  let least = within * within
  for (const dot of dots) {
    const square = (dot.x - x) ** 2 + (dot.y - y) ** 2
    if (square <= least) [nearestDot, least] = [dot, square]
  }
  return nearestDot
}

const DIRECTIONS: Readonly<Record<string, Place>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
}
/** The point next to `from` in the direction of an arrow key: what lies aside counts as further away. */
export function towards(dots: readonly Dot[], from: Dot, key: string): Dot | null {
  const to = DIRECTIONS[key]
  if (!to) return null
  let nearestDot: Dot | null = null
  let least = Infinity
  for (const dot of dots) {
    const ahead = (dot.x - from.x) * to.x + (dot.y - from.y) * to.y
    const aside = Math.abs((dot.x - from.x) * to.y) + Math.abs((dot.y - from.y) * to.x)
    const far = ahead + 2 * aside
    if (dot === from || ahead < 0.5 || aside > 2 * ahead || far >= least) continue
    ;[nearestDot, least] = [dot, far]
  }
  return nearestDot
}

export const isInside = ({ x, y }: Place, { left, right, top, bottom }: Box): boolean =>
  x >= left && x <= right && y >= top && y <= bottom
export const boxOf = (one: Place, other: Place): Box => ({
  left: Math.min(one.x, other.x),
  right: Math.max(one.x, other.x),
  top: Math.min(one.y, other.y),
  bottom: Math.max(one.y, other.y),
})

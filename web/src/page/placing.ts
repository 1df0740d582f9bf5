/** Where something small lies beside what it speaks of, within the window. */

/** Pixels between it and the window's edges. */
const EDGE = 8

export interface Placement {
  readonly x: number
  readonly y: number
  readonly isAbove: boolean
}

/** `own`: its size. On the side that is preferred, so long as there is room, `gap` pixels away. */
export function placedBeside(of: DOMRect, own: DOMRect, gap: number, prefers: 'above' | 'below'): Placement {
  const fitsAbove = of.top - gap - own.height >= EDGE
  const fitsBelow = of.bottom + gap + own.height <= innerHeight - EDGE
  const isAbove = prefers === 'above' ? fitsAbove : !fitsBelow
  const left = of.left + of.width / 2 - own.width / 2
  return {
    x: Math.max(EDGE, Math.min(left, innerWidth - own.width - EDGE)),
    y: isAbove ? of.top - gap - own.height : of.bottom + gap,
    isAbove,
  }
}

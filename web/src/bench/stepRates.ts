/** Step values from slow to fast, for one hand to move over while the lane runs: eighths to sixty-fourths and their triplets. */
import type { Lane, Pattern, Schemas } from '@/api/client'

export type StepValue = Schemas['StepValue']

export const RATES: readonly StepValue[] = [8, 16, 32, 64].flatMap((note) =>
  (['plain', 'triplet'] as const).map((kind) => ({ note, kind, multiplier: 1, divisor: 1 }) as StepValue),
)

export const sayRate = ({ note, kind }: StepValue): string =>
  `1/${note}${kind === 'triplet' ? ' triplet' : ''}`

const lengthOf = ({ note, kind, multiplier = 1, divisor = 1 }: StepValue) =>
  ((4 / (note ?? 16)) * { plain: 1, dotted: 1.5, triplet: 2 / 3 }[kind ?? 'plain'] * multiplier) / divisor

/** Which rate a lane has: the nearest one that is not faster; -1 where it is slower than all. */
export function rateOf(lane: Lane, pattern: Pattern): number {
  if (lane.span) return -1
  const length = lengthOf(lane.step_value ?? pattern.step_value)
  return RATES.findLastIndex((rate) => lengthOf(rate) >= length - 1e-9)
}

/** Whether a lane has exactly that rate. */
export const hasRate = (lane: Lane, pattern: Pattern, rate: StepValue): boolean =>
  !lane.span && Math.abs(lengthOf(lane.step_value ?? pattern.step_value) - lengthOf(rate)) < 1e-9

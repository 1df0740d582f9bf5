/** What a hand that moves a band by whole steps makes of the step range: the ends it takes, kept on the cycle. */

export interface Range {
  readonly first: number
  readonly last: number
}
export type Grip = 'first' | 'last' | 'both'

const modulo = (value: number, by: number) => ((value % by) + by) % by

/** The range after moving one end, or all of it, `by` steps round a cycle of `steps`; null for all steps. */
export function movedRange({ first, last }: Range, steps: number, grip: Grip, by: number): Range | null {
  const length = modulo(last - first, steps) + 1
  const longer = grip === 'both' ? 0 : grip === 'last' ? by : -by
  const next = Math.min(steps, Math.max(1, length + longer))
  const from =
    grip === 'both' ? modulo(first + by, steps) : grip === 'last' ? first : modulo(last - next + 1, steps)
  if (next === steps && from === 0) return null
  return { first: from, last: modulo(from + next - 1, steps) }
}

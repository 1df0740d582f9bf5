import type { DrawnTake } from '@/api/takes'

/** What takes can be sorted by: a name, what it is of a take, and how it is said. */
export const ORDERS = {
  number: { says: 'their numbers', of: ({ number }: DrawnTake) => number },
  notes: { says: 'notes', of: ({ measures }: DrawnTake) => measures.notes },
  hits: { says: 'hits a bar', of: ({ measures }: DrawnTake) => measures.hits_a_bar },
  syncopation: { says: 'syncopation', of: ({ measures }: DrawnTake) => measures.syncopation },
  distance: { says: 'distance from the first', of: ({ measures }: DrawnTake) => measures.distance },
} as const
export type Order = keyof typeof ORDERS

/** A copy, the lowest first; takes that are alike by their numbers. */
export function sorted(takes: readonly DrawnTake[], order: Order): DrawnTake[] {
  const { of } = ORDERS[order]
  return [...takes].sort((one, other) => of(one) - of(other) || one.number - other.number)
}

const percent = (share: number) => `${Math.round(share * 100)} %`

/** A take's measures, in words. */
export const saidOf = ({ measures }: DrawnTake): string =>
  [
    `${measures.notes} notes`,
    `${Number(measures.hits_a_bar.toFixed(1))} a bar`,
    `syncopation ${percent(measures.syncopation)}`,
  ].join(' · ')

/** How far it is from the first, in words. */
export const offSaid = ({ number, measures }: DrawnTake): string =>
  number === 1 ? 'the first' : `${percent(measures.distance)} different`

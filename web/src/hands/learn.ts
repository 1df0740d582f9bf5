/** Which control an element on the screen is: for learning. Elements say so by `data-learn`; numbers by their fields. */
import type { Target } from '@/api/ports'

export const learns = (target: Target): { readonly 'data-learn': string } => ({
  'data-learn': JSON.stringify(target),
})

/** What is greater than this, as the number of the dice, is not for a knob. */
const MOST = 8192

/** What a press on `element` would learn in the piece of that id, whose pattern has `lanes`; null: nothing. */
export function targetAt(
  element: Element,
  pieceId: number | null,
  lanes: readonly { id: string; name: string }[],
): Target | null {
  const attribute = element.closest<HTMLElement>('[data-learn]')?.dataset['learn']
  if (attribute) return JSON.parse(attribute) as Target
  const number = element.closest<HTMLElement>('[data-field]')
  const field = number?.dataset['field']
  if (!number || !field || pieceId === null) return null
  const of = number.closest<HTMLElement>('[data-lane], [data-bench-of]')?.dataset
  const lane = of?.['lane'] ?? of?.['benchOf'] ?? null
  const [low, high] = [Number(number.dataset['low']), Number(number.dataset['high'])]
  if (!(low < high) || Math.max(-low, high) > MOST) return null
  const words = [lanes.find(({ id }) => id === lane)?.name, number.dataset['name'] ?? field]
  const name = words.filter(Boolean).join(': ').slice(0, 80)
  return { kind: 'control', piece: pieceId, lane, field, name, low, high }
}

/** The moments at which a pattern may take over, and how, in words. */
import type { How } from '@/sound/succession'

export const WHENS: readonly (readonly [How['at'], string])[] = [
  ['once', 'at once'],
  ['beat', 'at the next beat'],
  ['bar', 'at the next bar line'],
  ['pass', 'at the end of its pass'],
]
export const WHERES: readonly (readonly [How['to'], string])[] = [
  ['begin', 'begins'],
  ['carry on', 'carries on'],
]
export const saidWhen = (at: How['at']): string => WHENS.find(([one]) => one === at)?.[1] ?? ''

/** What a big control takes hold of, in the pattern that is on the table. */
import type { Bench, Lane, Pattern, Piece, Schemas, Word } from '@/api/client'
import { isSame } from '@/api/same'
import { inkOf } from '@/theme/inks'
import { valueAt } from '@/work/document'
import { LANE_CONTROLS, PATTERN_CONTROLS, type Control } from '@/work/movements'

export type BigControl = Schemas['BigControl']

/** `value`: a number, or the place among the control's options; null where the pattern has no such lane or setting. */
export interface ControlHandle {
  readonly of: BigControl
  readonly control: Control
  readonly laneId: string | null
  readonly lane: string
  readonly name: string
  readonly ink: string
  readonly value: number | null
  /** Whether the pattern has the lane. */
  readonly isHere: boolean
  readonly low: number
  readonly high: number
}

export const controlFor = ({ lane, control }: BigControl): Control | undefined =>
  (lane ? LANE_CONTROLS : PATTERN_CONTROLS).find(({ field }) => field === control)

/** The value at the place of an option, as the document holds it. */
export function storedValue(hold: ControlHandle, value: number): unknown {
  const { options } = hold.control
  if (!options.length) return value
  const isTwo = options.length === 2
  return isTwo ? value === 1 : options[value]?.value
}

function valueOf(from: object, control: Control, plain: unknown): number | null {
  const value = valueAt(from, control.field) ?? (control.field === 'step_value' ? plain : undefined)
  if (typeof value === 'number') return value
  if (typeof value === 'boolean') return Number(value)
  const place = control.options.findIndex((one) => isSame(one.value, value))
  return place >= 0 ? place : null
}

/** Its word on the bench knows how far it goes on this lane. */
const wordOf = (bench: Bench | undefined, field: string): Word | undefined =>
  bench?.fields.flatMap(({ words }) => words).find((word) => word.kind === 'number' && word.field === field)

export function handleOf(
  of: BigControl,
  document: Piece,
  pattern: Pattern,
  bench: Bench | undefined,
  control = controlFor(of),
): ControlHandle | null {
  if (!control) return null
  const lane = pattern.lanes.find(({ id }) => id === of.lane)
  const elsewhere = document.patterns.flatMap(({ lanes }) => lanes).find(({ id }) => id === of.lane)
  const from = of.lane ? lane : { ...pattern, swing: document.swing, tempo: document.tempo }
  const word = wordOf(bench, control.field)
  return {
    of,
    control,
    laneId: of.lane ?? null,
    lane: of.lane ? ((lane ?? elsewhere)?.name ?? 'a lane that is gone') : `Pattern ${pattern.name}`,
    name: control.name,
    ink: of.lane ? inkOf((lane ?? elsewhere)?.ink ?? 0) : 'var(--ink)',
    value: from ? valueOf(from, control, pattern.step_value) : null,
    isHere: from !== undefined,
    low: word?.low ?? control.low,
    high: word?.high ?? control.high,
  }
}

/** The controls that a lane has something to move of. */
export const controlsOf = (lane: Lane, pattern: Pattern): Control[] =>
  LANE_CONTROLS.filter((control) => valueOf(lane, control, pattern.step_value) !== null)

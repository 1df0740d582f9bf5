/** Movements of controls as data: points put in, taken out, moved. What can be moved, and how far, is the engine's to say. */
import controls from '@/api/controls.json'
import { isSame } from '@/api/same'
import type { Lane, Movement, Pattern, Piece, Schemas } from '@/api/client'
import { valueAt, withPattern, withValueAt } from './document'

type Value = Movement['points'][number][1]
export interface Control {
  readonly field: string
  readonly name: string
  readonly unit: string
  readonly low: number
  readonly high: number
  readonly options: readonly { readonly value: unknown; readonly says: string }[]
}
export const LANE_CONTROLS: readonly Control[] = controls.lane
export const PATTERN_CONTROLS: readonly Control[] = controls.pattern

type Point = Movement['points'][number]
const isBefore = (one: Point, other: Point) => one[0] - other[0]

/** A movement with a point at `tick`, in place of one there; `from`: where it was before. */
export function withPoint(
  movement: Movement,
  tick: number,
  value: Value,
  from: number | null = null,
): Movement {
  const others = movement.points.filter(([at]) => at !== tick && at !== from)
  return { ...movement, points: [...others, [tick, value] as Point].sort(isBefore) }
}
/** Without the point at a place; null where it was the last one. */
export function withoutPoint(movement: Movement, place: number): Movement | null {
  const points = movement.points.filter((_, at) => at !== place)
  return points.length ? { ...movement, points } : null
}
/** `movements` with that of a control exchanged, or taken out. */
export function withMovement(
  movements: readonly Movement[],
  control: string,
  movement: Movement | null,
): Movement[] {
  const isKnown = movements.some((one) => one.control === control)
  if (!isKnown) return movement ? [...movements, movement] : [...movements]
  return movements.flatMap((one) => (one.control === control ? (movement ?? []) : one))
}

type Moved = Lane | Pattern
/** What has the same control before and after a change, and something else in it. */
export interface Change {
  readonly control: Control
  readonly was: Value
  readonly now: Value
}

/** The value of a control as a movement holds it: words for what is one of two. Undefined where it has none. */
function valueOf(of: Moved, control: Control): Value | undefined {
  const value = valueAt(of, control.field)
  if (typeof value === 'boolean') return control.options[value ? 1 : 0]?.value as Value
  if (value === null || value === undefined || Array.isArray(value)) return undefined
  return value as Value
}

/** Which controls a change has moved. `plain`: what an own step value that is missing stands for. */
export function changesOf<Of extends Moved>(
  before: Of,
  after: Of,
  known: readonly Control[],
  plain: Schemas['StepValue'] | null = null,
): Change[] {
  return known.flatMap((control) => {
    const fallback = control.field === 'step_value' ? (plain ?? undefined) : undefined
    const was = valueOf(before, control) ?? fallback
    const now = valueOf(after, control) ?? fallback
    // What is a part of something is the same control only while that is of the same kind.
    const [head = '', rest] = control.field.split('.')
    const kind = (of: Of) => rest && valueAt(of, `${head}.kind`)
    if (was === undefined || now === undefined || isSame(was, now) || kind(before) !== kind(after)) return []
    return [{ control, was, now }]
  })
}

export const withMovements = <Of extends Moved>(of: Of, movements: Movement[]): Of =>
  withValueAt(of, 'movements', movements)

/** `piece` with the movements of a pattern and of each of its lanes changed; `of`: a lane's id, null for the pattern. */
export const withEachMovements = (
  piece: Piece,
  patternId: string,
  change: (of: string | null) => (movements: Movement[]) => Movement[],
): Piece =>
  withPattern(piece, patternId, (pattern) => ({
    ...(pattern.movements?.length ? withMovements(pattern, change(null)(pattern.movements)) : pattern),
    lanes: pattern.lanes.map((lane) =>
      lane.movements?.length ? withMovements(lane, change(lane.id)(lane.movements)) : lane,
    ),
  }))

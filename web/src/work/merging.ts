/** Laying an answer on a document that a hand has changed since it was asked about. */
import { isSame } from '@/api/same'

type Fields = Readonly<Record<string, unknown>>
type Row = Fields & { readonly id: string }
const CONFLICT = Symbol('conflict')

/**
 * `now` with what differs between `before` and `after` laid on it, field by field; rows that have ids (patterns, lanes) one
 * by one. Null where a hand has changed the same since.
 */
export function laidOn<Of extends object>(before: Of, after: Of, now: Of): Of | null {
  const merged = mergedFields(before as Fields, after as Fields, now as Fields)
  return merged === CONFLICT ? null : (merged as Of)
}

function merged(before: unknown, after: unknown, now: unknown): unknown {
  if (isSame(before, after) || isSame(after, now)) return now
  if (isSame(before, now)) return after
  return areRows(before) && areRows(after) && areRows(now) ? mergedRows(before, after, now) : CONFLICT
}
function mergedFields(before: Fields, after: Fields, now: Fields): Fields | typeof CONFLICT {
  const result: Record<string, unknown> = { ...now }
  for (const field of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const value = merged(before[field], after[field], now[field])
    if (value === CONFLICT) return CONFLICT
    if (value !== now[field]) result[field] = value
  }
  return result
}
/** Rows are where the one of both puts them that moved, added or took away any. */
function mergedRows(before: readonly Row[], after: readonly Row[], now: readonly Row[]) {
  const ids = (rows: readonly Row[]) => rows.map(({ id }) => id)
  const isAfterAsBefore = isSame(ids(before), ids(after))
  if (!isAfterAsBefore && !isSame(ids(before), ids(now))) return CONFLICT
  const byId = (rows: readonly Row[]) => new Map(rows.map((row) => [row.id, row]))
  const [old, fresh, here] = [byId(before), byId(after), byId(now)]
  const rows: unknown[] = []
  for (const row of isAfterAsBefore ? now : after) {
    const [was, next, is] = [old.get(row.id), fresh.get(row.id), here.get(row.id)]
    const both = was && next && is ? (next === was ? is : mergedFields(was, next, is)) : (next ?? is)
    if (both === CONFLICT) return CONFLICT
    rows.push(both)
  }
  return rows
}
const areRows = (all: unknown): all is readonly Row[] =>
  Array.isArray(all) && all.every((one) => typeof one === 'object' && one && typeof one.id === 'string')

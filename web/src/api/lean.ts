/** What is asked about: lanes without what is plain, which the engine knows by itself. */
import plain from './plain.json'
import { isSame } from './same'

type Fields = Readonly<Record<string, unknown>>
const PLAIN: Fields = plain

/** Lanes never change: each is looked through once. */
const known = new WeakMap<object, object>()
function leanLane(lane: object): object {
  const before = known.get(lane)
  if (before) return before
  const lean = Object.fromEntries(
    Object.entries(lane).filter(([field, value]) => !(field in PLAIN && isSame(value, PLAIN[field]))),
  )
  known.set(lane, lean)
  return lean
}
const isScore = (value: unknown): value is { lanes: readonly object[] } =>
  typeof value === 'object' && value !== null && Array.isArray((value as { lanes?: unknown }).lanes)

/** A body as JSON, its scores' lanes without what is plain. */
export function leanBody(body: unknown): string {
  if (typeof body !== 'object' || body === null) return JSON.stringify(body)
  const fields = Object.entries(body).map(([name, value]) =>
    isScore(value) ? [name, { ...value, lanes: value.lanes.map(leanLane) }] : [name, value],
  )
  return JSON.stringify(Object.fromEntries(fields))
}

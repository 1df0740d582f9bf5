/** Changing documents: always a new one, sharing what did not change. What is allowed is the engine's to say. */
import { ThrowQuestion } from '@/api/limits.json'
import type { HeldDetour, Keys, Lane, Pattern, Piece, Score, StripPicture } from '@/api/client'
import plain from '@/api/plain.json'
import scoreFields from '@/api/scoreFields.json'

export type Patch = Record<string, unknown>
/** As fast as it is written. */
export const PLAIN_PACE = { times: 1, over: 1 }
export const NO_KEYS: Keys = { held: [], sustained: [], let_go: [] }

/** The value at a dotted `path` such as "source.hits"; undefined where nothing lies. */
export function valueAt(from: object, path: string): unknown {
  return path.split('.').reduce<unknown>((at, key) => (at as Patch | null | undefined)?.[key], from)
}

/** A copy of `target` with `value` at a dotted `path`; rows are counted from 0. */
export function withValueAt<Target extends object>(target: Target, path: string, value: unknown): Target {
  const [key = '', ...rest] = path.split('.')
  const inner = rest.length
    ? withValueAt(((target as Patch)[key] ?? {}) as object, rest.join('.'), value)
    : value
  if (Array.isArray(target)) return target.map((item, at) => (at === Number(key) ? inner : item)) as Target
  return { ...target, [key]: inner }
}

/** A lane in which all is plain. */
export function plainLane(of: Pick<Lane, 'id' | 'name' | 'voice' | 'ink' | 'source'>): Lane {
  return { ...(plain as Omit<Lane, keyof typeof of>), ...of }
}

/** A copy of `lane` with one field moved. A drawn lane that grows shorter loses the hits that no longer fit. */
export function withField(lane: Lane, field: string, value: unknown): Lane {
  const result = withValueAt(lane, field, value)
  if (result.source.kind !== 'drawn') return result
  const { steps, hits } = result.source
  return { ...result, source: { ...result.source, hits: hits.filter((hit) => hit < steps) } }
}

/** A copy of a drawn `lane` with the drawn step set to hit or rest. */
export function withStep(lane: Lane, step: number, isHit: boolean): Lane {
  if (lane.source.kind !== 'drawn') return lane
  const others = lane.source.hits.filter((hit) => hit !== step)
  const hits = isHit ? [...others, step].sort((one, other) => one - other) : others
  return { ...lane, source: { ...lane.source, hits } }
}

/** A copy of `lane` with one step turned by hand to `isHit`; where that is what its rule says, no hand is left on it. */
export function withTurnedStep(lane: Lane, step: number, isHit: boolean, byRule: boolean): Lane {
  const others = lane.edits.filter((edit) => edit.step !== step)
  if (isHit === byRule) return { ...lane, edits: others }
  const edits = [...others, { step, hit: isHit }].sort((one, other) => one.step - other.step)
  return { ...lane, edits }
}

/** What the bench says of a strip: where it lies, and how many values it has. */
type StripPlace = Pick<StripPicture, 'path' | 'is_free'>
type StripValues = (number | null)[]
interface AnyStrip {
  readonly values: StripValues
  readonly free: { direction: string; advance: string } | null
  readonly spread: object | null
}
const stripAt = (lane: Lane, path: string): AnyStrip => {
  const strip = valueAt(lane, path) as Partial<AnyStrip> | null | undefined
  return { ...strip, values: strip?.values ?? [], free: strip?.free ?? null, spread: strip?.spread ?? null }
}

/** The values of a strip as they stand; those beyond the last are plain. */
export const stripValuesOf = (lane: Lane, path: string): readonly (number | null)[] =>
  stripAt(lane, path).values

/** A copy of `lane` with `values` at some places of a strip; null: plain. A strip with nothing of its own goes away. */
export function withStripValues(
  lane: Lane,
  { path }: StripPlace,
  values: ReadonlyMap<number, number | null>,
): Lane {
  const strip = stripAt(lane, path)
  const row = [...strip.values]
  for (const [place, value] of values) {
    while (row.length <= place) row.push(null)
    row[place] = value
  }
  if (!strip.free) while (row.length && row.at(-1) === null) row.pop()
  const isGone = !row.length && !strip.spread && !path.startsWith('control_strips')
  return withValueAt(lane, path, isGone ? null : { ...strip, values: row })
}

/** A copy of `lane` with a strip of a length of its own, which sets it free from the lane. */
export function withStripLength(lane: Lane, { path }: StripPlace, length: number): Lane {
  const strip = stripAt(lane, path)
  const values = Array.from({ length }, (_, place) => strip.values[place] ?? null)
  const free = strip.free ?? { direction: 'forward', advance: 'step' }
  return withValueAt(lane, path, { ...strip, values, free })
}

/** `all` with the one at `from` moved to `to`: lanes, rows, patterns. */
export function withMoved<One>(all: readonly One[], from: number, to: number): One[] {
  const result = [...all]
  result.splice(to, 0, ...result.splice(from, 1))
  return result
}

/** `lanes` that are tried out, as anchored as those that `stand` are. */
export const withStanding = (lanes: readonly Lane[], stand: readonly Lane[]): Lane[] =>
  lanes.map((lane) => ({
    ...lane,
    anchored: stand.find(({ id }) => id === lane.id)?.anchored ?? lane.anchored,
  }))

export function withLanes(piece: Piece, patternId: string, change: (lanes: Lane[]) => Lane[]): Piece {
  return withPattern(piece, patternId, (pattern) => ({ ...pattern, lanes: change(pattern.lanes) }))
}

export function withLane(
  piece: Piece,
  patternId: string,
  laneId: string,
  change: (lane: Lane) => Lane,
): Piece {
  return withLanes(piece, patternId, (lanes) =>
    lanes.map((lane) => (lane.id === laneId ? change(lane) : lane)),
  )
}

export function withPattern(piece: Piece, patternId: string, change: (pattern: Pattern) => Pattern): Piece {
  const patterns = piece.patterns.map((pattern) => (pattern.id === patternId ? change(pattern) : pattern))
  return { ...piece, patterns }
}

/** `piece` with mute, solo and held keys as they are in `standing`: they are stored, but no moments of history. */
export function withSilenceOf(piece: Piece, standing: Piece): Piece {
  // Lanes of two patterns may have the same id: a copied pattern keeps them.
  const keyOf = (pattern: Pattern, lane: Lane) => `${pattern.id} ${lane.id}`
  const now = new Map(
    standing.patterns.flatMap((pattern) =>
      pattern.lanes.map((lane) => [keyOf(pattern, lane), lane] as const),
    ),
  )
  const patterns = changed(piece.patterns, (pattern) => {
    const lanes = changed(pattern.lanes, (lane) => {
      const { mute, solo, keys } = now.get(keyOf(pattern, lane)) ?? lane
      const isSo = mute === lane.mute && solo === lane.solo && keys === lane.keys
      return isSo ? lane : { ...lane, mute, solo, keys }
    })
    return lanes === pattern.lanes ? pattern : { ...pattern, lanes }
  })
  return patterns === piece.patterns ? piece : { ...piece, patterns }
}

/** `all`, each changed; where none is, the same object: what looks at it has nothing to do. */
function changed<One>(all: One[], change: (one: One) => One): One[] {
  const after = all.map(change)
  return after.some((one, at) => one !== all[at]) ? after : all
}

/**
 * What the engine renders: the pattern with all of the piece that decides its sound. `live`: what hands hold on the keys, by
 * lanes; `held`: detours that they hold, or held.
 */
export function scoreOf(
  piece: Piece,
  pattern: Pattern,
  live: ReadonlyMap<string, Keys> = new Map(),
  held: readonly HeldDetour[] = [],
): Score {
  const lanes = pattern.lanes.map((lane) => {
    const keys = live.get(lane.id)
    return keys ? { ...lane, keys } : lane
  })
  const whole: Patch = { ...piece, ...pattern, scale: pattern.scale ?? piece.scale }
  const fields = scoreFields.map((field) => [field, whole[field]] as const)
  return { ...Object.fromEntries(fields), lanes, held_detours: [...held], pace: PLAIN_PACE } as Score
}

/** An id that begins with `kind` and that none of `known` has. */
export function newId(kind: string, known: readonly { id: string }[]): string {
  const taken = new Set(known.map(({ id }) => id))
  let id: string
  do {
    id = `${kind}-${randomNumber(2 ** 32).toString(36)}`
  } while (taken.has(id))
  return id
}

/** A whole number from 0 to less than `end`. */
export const randomNumber = (end: number): number =>
  (crypto.getRandomValues(new Uint32Array(1))[0] as number) % end

/** The number of a new throw. */
export const newThrow = (): number => 1 + randomNumber(ThrowQuestion.throw.max)

/** A name for a new pattern: the first letter that none has. */
export function newPatternName(patterns: readonly Pattern[]): string {
  const taken = new Set(patterns.map(({ name }) => name))
  const letters = Array.from({ length: 26 }, (_, at) => String.fromCharCode(65 + at))
  return letters.find((letter) => !taken.has(letter)) ?? `${patterns.length + 1}`
}

/** A voice of a kit that is as its sound is. */
export const PLAIN_VOICE = {
  tune: 0, start_percent: 0, length_percent: 100, fade_in_ms: 0, fade_out_ms: 0, reverse: false, level_db: 0, pan: 0,
} as const // prettier-ignore

/** Changing documents: always a new one, sharing what did not change. What is allowed is the engine's to say. */
import type { Lane, Pattern, Piece, Score } from '@/api/client'

export type Patch = Record<string, unknown>

/** The value at a dotted `path` such as "source.hits"; undefined where nothing lies. */
export function valueAt(from: object, path: string): unknown {
  return path.split('.').reduce<unknown>((at, key) => (at as Patch | null | undefined)?.[key], from)
}

/** A copy of `target` with `value` at a dotted `path`. */
export function withValueAt<Target extends object>(target: Target, path: string, value: unknown): Target {
  const [key = '', ...rest] = path.split('.')
  const inner = rest.length
    ? withValueAt(((target as Patch)[key] ?? {}) as object, rest.join('.'), value)
    : value
  return { ...target, [key]: inner }
}

/** A copy of `lane` with one field moved. A drawn lane that grows shorter loses the hits that no longer fit. */
export function withField(lane: Lane, field: string, value: unknown): Lane {
  const moved = withValueAt(lane, field, value)
  if (moved.source.kind !== 'drawn') return moved
  const { steps, hits } = moved.source
  return { ...moved, source: { ...moved.source, hits: hits.filter((hit) => hit < steps) } }
}

/** A copy of a drawn `lane` with the drawn step set to hit or rest. */
export function withStep(lane: Lane, step: number, isHit: boolean): Lane {
  if (lane.source.kind !== 'drawn') return lane
  const others = lane.source.hits.filter((hit) => hit !== step)
  const hits = isHit ? [...others, step].sort((one, other) => one - other) : others
  return { ...lane, source: { ...lane.source, hits } }
}

/** A copy of `lane` with one step turned by hand: back to what its rule says if it was turned before, else to `isHit`. */
export function withTurnedStep(lane: Lane, step: number, isHit: boolean): Lane {
  const others = lane.edits.filter((edit) => edit.step !== step)
  if (others.length < lane.edits.length) return { ...lane, edits: others }
  const edits = [...others, { step, hit: isHit }].sort((one, other) => one.step - other.step)
  return { ...lane, edits }
}

/** A copy of `lane` in which single steps have chances of their own; 100 % is said by saying nothing. */
export function withStepChances(lane: Lane, percents: ReadonlyMap<number, number>): Lane {
  const known = new Map(lane.step_chances.map(({ step, percent }) => [step, percent]))
  for (const [step, percent] of percents) known.set(step, percent)
  const step_chances = [...known]
    .filter(([, percent]) => percent < 100)
    .sort(([one], [other]) => one - other)
    .map(([step, percent]) => ({ step, percent }))
  return { ...lane, step_chances }
}

/** `lanes` with the one at `from` moved to `to`. */
export function withLaneMoved(lanes: readonly Lane[], from: number, to: number): Lane[] {
  const moved = [...lanes]
  moved.splice(to, 0, ...moved.splice(from, 1))
  return moved
}

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

/** `piece` with mute and solo as they are in `standing`: they are stored, but no moments of history. */
export function withSilenceOf(piece: Piece, standing: Piece): Piece {
  // Lanes of two patterns may have the same id: a copied pattern keeps them.
  const keyOf = (pattern: Pattern, lane: Lane) => `${pattern.id} ${lane.id}`
  const now = new Map(
    standing.patterns.flatMap((pattern) =>
      pattern.lanes.map((lane) => [keyOf(pattern, lane), lane] as const),
    ),
  )
  return {
    ...piece,
    patterns: piece.patterns.map((pattern) => ({
      ...pattern,
      lanes: pattern.lanes.map((lane) => {
        const { mute, solo } = now.get(keyOf(pattern, lane)) ?? lane
        return mute === lane.mute && solo === lane.solo ? lane : { ...lane, mute, solo }
      }),
    })),
  }
}

/** What the engine renders: the pattern with all of the piece that decides its sound. */
export function scoreOf(piece: Piece, pattern: Pattern): Score {
  const { meter, bars, step_value, lanes } = pattern
  return { meter, bars, step_value, lanes, tempo: piece.tempo, kit: piece.kit }
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

/** A name for a new pattern: the first letter that none has. */
export function newPatternName(patterns: readonly Pattern[]): string {
  const taken = new Set(patterns.map(({ name }) => name))
  const letters = Array.from({ length: 26 }, (_, at) => String.fromCharCode(65 + at))
  return letters.find((letter) => !taken.has(letter)) ?? `${patterns.length + 1}`
}

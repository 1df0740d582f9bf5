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
  const lanes = standing.patterns.flatMap((pattern) => pattern.lanes.map((lane) => [lane.id, lane] as const))
  const now = new Map(lanes)
  return {
    ...piece,
    patterns: piece.patterns.map((pattern) => ({
      ...pattern,
      lanes: pattern.lanes.map((lane) => {
        const { mute, solo } = now.get(lane.id) ?? lane
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

/** An id for a new lane that no lane of the pattern has. */
export function newLaneId(lanes: readonly Lane[]): string {
  const taken = new Set(lanes.map((lane) => lane.id))
  let id: string
  do {
    id = `lane-${crypto.getRandomValues(new Uint32Array(1))[0]?.toString(36)}`
  } while (taken.has(id))
  return id
}

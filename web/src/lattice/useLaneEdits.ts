/** What hands do to lanes, each named for the history. */
import type { Lane, LanePicture, Word } from '@/api/client'
import { newLaneId, valueAt, withField, withStep, withTurnedStep, type Patch } from '@/stores/document'
import { useNotices } from '@/stores/notices'
import { usePiece } from '@/stores/piece'
import { inks } from '@/theme/inks'

export function useLaneEdits() {
  const piece = usePiece()
  const notices = useNotices()

  function move(lane: Lane, word: Word, value: number | string, gesture: string) {
    // The value before the whole gesture: what the moment tells, however far the hand has gone since.
    const last = piece.history.done.at(-1)
    const before = last?.gesture === gesture ? last.before : piece.document
    const was = before?.patterns.flatMap(({ lanes }) => lanes).find(({ id }) => id === lane.id)
    const label = `${lane.name}: ${word.name} ${was ? valueAt(was, word.field) : ''} → ${value}`
    piece.editLane(lane.id, label, (old) => withField(old, word.field, value), gesture)
  }

  function patch(lane: Lane, label: string, fields: Patch) {
    piece.editLane(lane.id, `${lane.name}: ${label}`, (old) => ({ ...old, ...fields }))
  }

  /** Set steps, as the picture counts them, to hit or rest: drawn where the lane is drawn, else turned by hand. */
  function setSteps(
    lane: Lane,
    picture: LanePicture,
    steps: readonly number[],
    isHit: boolean,
    gesture: string | null = null,
  ) {
    const said = steps.length === 1 ? `step ${(steps[0] ?? 0) + 1}` : `${steps.length} steps`
    const label = `${lane.name}: ${said} ${isHit ? 'hit' : 'rest'}`
    const set = (old: Lane, step: number) => {
      const drawn = picture.draws[step]
      return drawn === undefined ? withTurnedStep(old, step, isHit) : withStep(old, drawn, isHit)
    }
    piece.editLane(lane.id, label, (old) => steps.reduce(set, old), gesture)
  }

  /** A new lane with the first voice that none has yet. Returns its id. */
  function add(): string {
    const voices = piece.document?.kit.voices ?? []
    const taken = new Set(piece.lanes.map(({ voice }) => voice))
    const voice = voices.find(({ id }) => !taken.has(id)) ?? voices[0]
    const id = newLaneId(piece.lanes)
    const lane: Lane = {
      id,
      name: voice?.name ?? 'Lane',
      voice: voice?.id ?? '',
      ink: piece.lanes.length % inks.length,
      source: { kind: 'euclidean', hits: 3, steps: 8 },
      rotate: 0,
      complement: false,
      edits: [],
      velocity: 100,
      length_percent: 100,
      chance_percent: 100,
      mute: false,
      solo: false,
    }
    piece.editLanes(`${lane.name}: added`, (lanes) => [...lanes, lane])
    return id
  }

  /** A copy below the lane, with luck of its own. Returns its id. */
  function copy(lane: Lane): string {
    const id = newLaneId(piece.lanes)
    const twin = { ...lane, id, name: `${lane.name.slice(0, 75)} copy` }
    piece.editLanes(`${lane.name}: copied`, (lanes) =>
      lanes.flatMap((one) => (one.id === lane.id ? [one, twin] : [one])),
    )
    return id
  }

  function remove(lane: Lane) {
    piece.editLanes(`${lane.name}: removed`, (lanes) => lanes.filter(({ id }) => id !== lane.id))
    notices.say(`${lane.name} is removed.`, { label: 'Undo', act: () => piece.undo() })
  }

  return { move, patch, setSteps, add, copy, remove }
}

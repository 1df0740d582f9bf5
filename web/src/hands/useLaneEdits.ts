/** What hands do to lanes, each named for the history. What is done to one of several chosen lanes is done to all of them. */
import { ApiError, type Alternative, type Bench, type Lane, type LanePicture, type Piece, type Word } from '@/api/client' // prettier-ignore
import beginnings from '@/api/beginnings.json'
import { onArrival } from '@/engine/onArrival'
import { engine } from '@/engine/engine'
import { isSame } from '@/api/same'
import {
  newId,
  newThrow,
  valueAt,
  withField,
  withMoved,
  withLanes,
  withStep,
  withTurnedStep,
  plainLane,
  type Patch,
} from '@/work/document'
import { momentOf, standingBefore } from '@/work/history'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { useLive } from '@/work/live'
import { useTrail } from '@/work/trail'
import { inks } from '@/theme/inks'
import { movedRange, type Grip } from './stepRange'

interface LaneContext {
  /** The lanes that an action on `lane` means: all that are chosen if it is among them, else it alone. */
  meant(lane: Lane): readonly Lane[]
  picture(laneId: string): LanePicture | undefined
  /** Every setting of a chosen lane. */
  bench(laneId: string): Bench | undefined
}

export type LaneEdits = ReturnType<typeof useLaneEdits>
export function useLaneEdits({ meant, picture, bench }: LaneContext) {
  const piece = usePiece()
  const trail = useTrail()
  const live = useLive()
  const notices = useNotices()

  const nameOf = (lanes: readonly Lane[]) =>
    lanes.length === 1 ? (lanes[0]?.name ?? '') : `${lanes.length} lanes`

  /** The lane as it was before `gesture`. */
  const laneBefore = (gesture: string, laneId: string): Lane | undefined => {
    const moment = momentOf(piece.history, gesture)
    const before: Piece | null | undefined = moment
      ? standingBefore(piece.history, moment.number)?.document
      : piece.document
    const here = before?.patterns.find(({ id }) => id === piece.pattern?.id)
    return here?.lanes.find(({ id }) => id === laneId)
  }

  /** The word of another lane that changes the same field: it knows that lane's limits. */
  const sameWord = (laneId: string, word: Word): Word | undefined => {
    const shown = picture(laneId)
    // A lane that was chosen a moment ago has no bench yet, but its sentence and its hand.
    const words = [
      ...(bench(laneId)?.fields ?? []).flatMap(({ words }) => words),
      ...(shown?.sentence.parts ?? []).flatMap(({ words }) => words),
      ...(shown?.busy ? [shown.busy] : []),
    ]
    return words.find((other) => other.kind === word.kind && other.field === word.field)
  }

  /** The benches of `lanes`, which the engine sends of those that are chosen. */
  const benchesOf = (lanes: readonly Lane[]) => Promise.all(lanes.map(({ id }) => onArrival(() => bench(id))))

  /** Move a number: every lane that is meant by as much, or, where it was typed, to the same value. */
  async function move(lane: Lane, word: Word, value: number | string, gesture: string, isTyped = false) {
    const lanes = meant(lane)
    // What is dragged on goes on by the benches as soon as they are there.
    if (isTyped && lanes.some(({ id }) => !sameWord(id, word))) await benchesOf(lanes)
    const was = laneBefore(gesture, lane.id)
    const before = was ? valueAt(was, word.field) : undefined
    const shown = (one: unknown) =>
      typeof one === 'number' ? one + word.counted_from : typeof one === 'string' ? BigInt(one) + 1n : ''
    const label = `${nameOf(lanes)}: ${word.name} ${shown(before)} → ${shown(value)}`
    const ids = new Set(lanes.map(({ id }) => id))
    const change = (old: Lane): Lane => {
      if (!ids.has(old.id)) return old
      if (old.id === lane.id) return withField(old, word.field, value)
      const theirs = sameWord(old.id, word)
      const now = valueAt(old, word.field)
      if (!theirs || typeof value !== 'number' || typeof now !== 'number' || typeof before !== 'number')
        return old
      const wanted = isTyped ? value : now + value - before
      return withField(old, word.field, Math.min(theirs.high, Math.max(theirs.low, wanted)))
    }
    piece.editLanes(label, (all) => all.map(change), gesture)
    if (isTyped) {
      const words = lanes.map(({ id }) => (id === lane.id ? word : sameWord(id, word)))
      offerToSetAll(lanes, word, words)
    }
  }
  /** Steps that have values of their own do not take what is typed for the lane: it says so, and offers to set all. */
  function offerToSetAll(lanes: readonly Lane[], { name }: Word, words: readonly (Word | undefined)[]) {
    const own = lanes.filter((_, at) => words[at]?.own)
    if (!own.length) return
    const count = words.reduce((all, word) => all + (word?.own ?? 0), 0)
    const ids = own.map(({ id }) => id)
    const strip = words.find((word) => word?.own)?.strip ?? ''
    notices.say(`${nameOf(own)}: ${count} steps have a ${name} of their own and keep it.`, {
      label: 'Set all',
      act: () =>
        patchAsAnswered(`${name} of all steps`, () =>
          engine.changeStrip({ lanes: ids, strip, action: 'empty' }),
        ),
    })
  }

  /** Set fields of every lane that is meant. */
  function patch(lane: Lane, label: string, fields: Patch) {
    patchEach(label, new Map(meant(lane).map(({ id }) => [id, fields])))
  }

  function patchEach(label: string, patches: ReadonlyMap<string, Patch>) {
    const lanes = piece.lanes.filter(({ id }) => patches.has(id))
    if (!lanes.length) return
    live.takePatches(patches)
    piece.editLanes(`${nameOf(lanes)}: ${label}`, (all) =>
      all.map((one) => ({ ...one, ...patches.get(one.id) })),
    )
  }

  /** What a word of a lane's sentence could be instead; without a setting, what the lane could begin to use. */
  const ask = (lane: string, setting: string, word: string): Promise<Alternative[]> =>
    engine.alternatives({ lane, setting, word })

  /** Choose one of a word's alternatives, on every lane that is meant. */
  async function choose(lane: Lane, setting: string, word: string, { key, text, patch }: Alternative) {
    const others = meant(lane).filter(({ id }) => id !== lane.id)
    await layPatches(text, async () => {
      const patches = new Map<string, Patch>([[lane.id, patch]])
      for (const other of others) {
        const theirs = await ask(other.id, setting, word).catch(notOffered)
        const same = theirs.find((one) => one.key === key)?.patch
        if (same) patches.set(other.id, same)
      }
      return patches
    })
  }
  /** What another lane does not offer is not for it. */
  function notOffered(reason: unknown): Alternative[] {
    if (reason instanceof ApiError && reason.status === 422) return []
    throw reason
  }

  /** Set steps, as the picture counts them, to hit or rest: drawn where the lane is drawn, else turned by hand. */
  function setSteps(
    lane: Lane,
    shown: LanePicture,
    steps: readonly number[],
    isHit: boolean,
    gesture: string | null = null,
  ) {
    const said = steps.length === 1 ? `step ${(steps[0] ?? 0) + 1}` : `${steps.length} steps`
    const label = `${lane.name}: ${said} ${isHit ? 'hit' : 'rest'}`
    const set = (old: Lane, step: number) => {
      const drawn = shown.draws[step]
      if (drawn !== undefined) return withStep(old, drawn, isHit)
      const byRule = (shown.edited.includes(step) ? shown.ruled : shown.cycle_hits).includes(step)
      return withTurnedStep(old, step, isHit, byRule)
    }
    piece.editLane(lane.id, label, (old) => steps.reduce(set, old), gesture)
  }

  /** Throw a lane, or all that are chosen with it, by so many percent. */
  async function throwLane(lane: Lane, percent: number) {
    const lanes = meant(lane)
    if (lanes.length > 1) await throwThese(percent, (laneId) => lanes.some(({ id }) => id === laneId))
    else await throwThese(percent, (laneId) => laneId === lane.id, lane.id)
  }
  /** Throw all lanes that are not anchored. */
  const throwAll = (percent: number) => throwThese(percent, () => true)

  async function throwThese(percent: number, isMeant: (laneId: string) => boolean, only?: string) {
    const number = newThrow()
    await layPatches(`thrown by ${percent} %`, async () => {
      const sources = Object.entries(await engine.throwLanes(percent, number, only))
      return new Map(
        sources.filter(([laneId]) => isMeant(laneId)).map(([laneId, source]) => [laneId, { source }]),
      )
    })
  }

  /** A new lane with the first voice that none has yet. Returns its id. */
  function add(): string {
    const voices = piece.document?.kit.voices ?? []
    const taken = new Set(piece.lanes.map(({ voice }) => voice))
    const voice = voices.find(({ id }) => !taken.has(id)) ?? voices[0]
    const id = newId('lane', piece.lanes)
    const lane = plainLane({
      id, name: voice?.name ?? 'Lane', voice: voice?.id ?? '', ink: piece.lanes.length % inks.length,
      source: beginnings.lane as Lane['source'],
    }) // prettier-ignore
    piece.editLanes(`${lane.name}: added`, (lanes) => [...lanes, lane])
    return id
  }

  /** A copy below the lane, with luck of its own. Returns its id. */
  function copy(lane: Lane): string {
    const id = newId('lane', piece.lanes)
    const twin = { ...lane, id, name: `${lane.name.slice(0, 75)} copy` }
    piece.editLanes(`${lane.name}: copied`, (lanes) =>
      lanes.flatMap((one) => (one.id === lane.id ? [one, twin] : [one])),
    )
    return id
  }

  /** Remove lanes. Those that read one of them go on as they stand: drawn, or with a pool of the notes that sounded. */
  async function remove(lane: Lane) {
    const goneIds = new Set(meant(lane).map(({ id }) => id))
    const names = nameOf(meant(lane))
    const here = piece.pattern?.id ?? ''
    let readers: readonly Lane[] = []
    try {
      const isRemoved = await piece.editAsAnswered(`${names}: removed`, async (document) => {
        const others = piece.lanes.filter(({ id }) => !goneIds.has(id))
        const freed = await engine.without(
          goneIds,
          others.map(({ id }) => id),
        )
        readers = others.filter(({ id }) => freed.has(id))
        return withLanes(document, here, (lanes) =>
          lanes.filter(({ id }) => !goneIds.has(id)).map((one) => ({ ...one, ...freed.get(one.id) })),
        )
      })
      const note = readers.length ? ` ${nameOf(readers)} followed, and goes on as it stood.` : ''
      if (isRemoved) notices.say(`${names} removed.${note}`, { label: 'Undo', act: () => trail.undo() })
    } catch (reason) {
      notices.complain(reason)
    }
  }

  /** Move a lane to another place in the pattern. */
  function reorder(lane: Lane, to: number, gesture: string | null = null) {
    piece.editLanes(
      `${lane.name}: to place ${to + 1}`,
      (lanes) => {
        const from = lanes.findIndex(({ id }) => id === lane.id)
        return to < 0 || to >= lanes.length || from === to ? lanes : withMoved(lanes, from, to)
      },
      gesture,
    )
  }
  const shift = (lane: Lane, by: number) =>
    reorder(lane, piece.lanes.findIndex(({ id }) => id === lane.id) + by)

  /** Patch each lane as the engine says. */
  const patchAsAnswered = (label: string, asked: () => Promise<Record<string, Patch>>) =>
    layPatches(label, async () => new Map(Object.entries(await asked())))
  /** Lay what is answered on lanes; a notice says what was refused. */
  async function layPatches(label: string, asked: () => Promise<ReadonlyMap<string, Patch>>) {
    let lanes: readonly Lane[] = []
    try {
      await piece.editLanesAsAnswered(
        () => `${nameOf(lanes)}: ${label}`,
        async () => {
          const patches = await asked()
          lanes = piece.lanes.filter(({ id }) => patches.has(id))
          return patches
        },
      )
    } catch (reason) {
      notices.complain(reason)
    }
  }

  /** Move the step of every lane that is meant to one of the rates that the engine offers. */
  function setRate(lane: Lane, place: number, gesture: string) {
    const rate = bench(lane.id)?.rates[place]
    if (!rate) return
    const ids = new Set(meant(lane).flatMap(({ id }) => (bench(id)?.rates.length ? id : [])))
    piece.editLanes(
      `${nameOf(meant(lane))}: step ${rate.text}`,
      (all) => all.map((one) => (ids.has(one.id) ? { ...one, ...rate.patch } : one)),
      gesture,
    )
  }
  /** The next faster rate, or slower, than the one that the document has now: answers may be behind the hand. */
  async function turnRate(lane: Lane, by: number, gesture: string) {
    if (meant(lane).some(({ id }) => !bench(id))) await benchesOf(meant(lane))
    const { rates = [], rate = 0 } = bench(lane.id) ?? {}
    const now = piece.lanes.find(({ id }) => id === lane.id) ?? lane
    const has = ({ patch }: { patch: Patch }) =>
      Object.entries(patch).every(([field, value]) => isSame(valueAt(now, field) ?? null, value ?? null))
    const here = rates.findIndex(has)
    setRate(lane, Math.min(rates.length - 1, Math.max(0, (here < 0 ? rate : here) + by)), gesture)
  }

  /** Move the step range by whole steps. */
  function moveRange(lane: Lane, grip: Grip, by: number, gesture: string) {
    const shown = picture(lane.id)
    const was = laneBefore(gesture, lane.id)
    if (!shown || !was) return
    const last = shown.steps - 1
    const before = was.step_range ?? { first: 0, last }
    const within = { first: Math.min(before.first, last), last: Math.min(before.last, last) }
    const range = movedRange(within, shown.steps, grip, by)
    const label = range ? `steps ${range.first + 1}–${range.last + 1}` : 'all steps'
    piece.editLane(lane.id, `${lane.name}: ${label}`, (old) => ({ ...old, step_range: range }), gesture)
  }

  return {
    move, patch, patchEach, ask, choose, setSteps, patchAsAnswered, setRate, turnRate, moveRange, throwLane, throwAll, add, copy, remove, reorder, shift,
  } // prettier-ignore
}

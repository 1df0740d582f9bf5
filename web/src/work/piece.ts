import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  answer, api, type HeldDetour, type Keys, type Lane, type OpenPiece, type Pattern, type Piece, type PlacedRow, type Schemas, type Score,
} from '@/api/client' // prettier-ignore
import { isAway } from '@/api/policy'
import { isSame } from '@/api/same'
import { useInTurn, useNewest } from '@/page/asking'
import { NO_KEYS, scoreOf, withLane, withLanes, withPattern, withSilenceOf, withStanding, type Patch } from './document' // prettier-ignore
import {
  baseOf, momentBeside, momentOf, noHistory, remember, standingAt, withHeard, withLines, withName, withoutLast, type History, type Moment,
} from './history' // prettier-ignore
import { keepLast, lastOf } from './last'
import { laidOn } from './merging'
import { useOutbox } from './outbox'
import { useSaving } from './saving'
import { keyOfPiece } from './waiting'

/** A piece as it was here last, and the lines of its history. */
interface Last {
  readonly opened: OpenPiece
  readonly lines: readonly Schemas['MomentLine'][]
}

/** The piece that is open: its document, the pattern that is worked on, its history, and whether it is saved. */
export const usePiece = defineStore('piece', () => {
  const outbox = useOutbox()
  const id = ref<number | null>(null)
  const document = shallowRef<Piece | null>(null)
  const history = shallowRef<History>(noHistory)
  const saving = shallowRef<ReturnType<typeof useSaving> | null>(null)
  /** The moment at which the piece was opened here, and the document as it was then. */
  const opened = shallowRef<{ number: number; document: Piece } | null>(null)
  /** The pattern on the table, and the row of the running order that it is heard in, if that plays. */
  const table = shallowRef<{ readonly patternId: string; readonly row: PlacedRow | null }>({
    patternId: '',
    row: null,
  })

  const patterns = computed<readonly Pattern[]>(() => document.value?.patterns ?? [])
  const standing = computed<Pattern | null>(
    () => patterns.value.find(({ id }) => id === table.value.patternId) ?? patterns.value[0] ?? null,
  )
  /** What is tried out on the pattern, without a change of the document. */
  const tried = shallowRef<((pattern: Pattern) => Pattern) | null>(null)
  /** The piece in which it is tried, with its tempo, scale and swing; null: the document. */
  const triedIn = shallowRef<Piece | null>(null)
  const pattern = computed<Pattern | null>(() =>
    standing.value && tried.value ? tried.value(standing.value) : standing.value,
  )
  const lanes = computed<readonly Lane[]>(() => pattern.value?.lanes ?? [])
  /** What hands hold, or held since it plays: heard and drawn, but no part of the document. */
  const liveKeys = shallowRef<ReadonlyMap<string, Keys>>(new Map())
  /** Detours that hands hold, or held since it plays: heard and drawn, but no part of the document. */
  const heldDetours = shallowRef<readonly HeldDetour[]>([])
  /** The tempo of a clock from outside, in place of the document's; null: it runs here. */
  const clockTempo = ref<number | null>(null)
  /** A score in the tempo that it is heard in. */
  const inTempo = (of: Score): Score => (clockTempo.value === null ? of : { ...of, tempo: clockTempo.value })
  const score = computed<Score | null>(() =>
    document.value && pattern.value
      ? inTempo(scoreOf(triedIn.value ?? document.value, pattern.value, liveKeys.value, heldDetours.value))
      : null,
  )
  /** The same without what hands hold: how it begins. */
  const stillScore = computed<Score | null>(() =>
    document.value && pattern.value ? inTempo(scoreOf(triedIn.value ?? document.value, pattern.value)) : null,
  )
  const row = computed(() => table.value.row)
  /** What lanes hold when hands have let go, by their ids: it is stored, but is no moment of history. */
  function storeKeys(held: ReadonlyMap<string, Keys>) {
    const here = pattern.value?.id ?? ''
    editQuietly((now) =>
      withLanes(now, here, (all) => {
        const changed = all.map((lane) => {
          const keys = held.get(lane.id)
          return keys && !isSame(keys, lane.keys) ? { ...lane, keys } : lane
        })
        return changed.some((lane, at) => lane !== all[at]) ? changed : all
      }),
    )
  }
  /** What hands hold for a lane: since it plays, or as the document has it. */
  const keysOf = (laneId: string): Keys =>
    liveKeys.value.get(laneId) ?? lanes.value.find(({ id }) => id === laneId)?.keys ?? NO_KEYS
  function holdKeys(laneId: string, keys: Keys) {
    liveKeys.value = new Map([...liveKeys.value, [laneId, keys]])
  }
  /** Forget all that hands hold, keys and detours. */
  function letGoOfAll() {
    liveKeys.value = new Map()
    heldDetours.value = []
  }
  const dice = computed(() => pattern.value?.dice ?? 0)
  const saveState = computed(() => saving.value?.state.value ?? 'saved')
  const problem = computed(() => saving.value?.problem.value ?? '')

  const at = (pieceId: number) => ({ params: { path: { piece_id: pieceId } } })

  const fetchPiece = (pieceId: number) =>
    Promise.all([
      answer(api.GET('/api/pieces/{piece_id}', at(pieceId))),
      answer(api.GET('/api/pieces/{piece_id}/moments', at(pieceId))),
    ])

  /** The piece and its history from the server; where that is away, as they were here last. */
  async function fetchOrRecall(
    pieceId: number,
  ): Promise<readonly [OpenPiece, readonly Schemas['MomentLine'][]]> {
    try {
      return await fetchPiece(pieceId)
    } catch (reason) {
      const last = isAway(reason) ? await lastOf<Last>('piece') : undefined
      if (last?.opened.id !== pieceId) throw reason
      return [last.opened, last.lines]
    }
  }
  /** Keep the piece as it stands here, to be opened from where the server is away. */
  async function keepHere() {
    if (!document.value || id.value === null || !saving.value) return
    const { standsAt, moments } = history.value
    const lines = moments.map(({ number, label, at, heard, name }) => ({
      number,
      label,
      at: at ?? '',
      heard,
      name,
    }))
    const opened = {
      id: id.value, revision: saving.value.revision(), attempt: '', stands_at: standsAt, changed_at: '', document: document.value,
    } // prettier-ignore
    await keepLast('piece', { opened, lines } satisfies Last)
  }

  /** What is opened: of several the last one alone. */
  const opening = useNewest()
  async function open(pieceId: number) {
    if (pieceId === id.value) return opening.cancel()
    close()
    const answers = await opening.ask(() => Promise.all([fetchOrRecall(pieceId), outbox.isReady()]))
    if (!answers) return
    const [[piece, lines]] = answers
    take(piece, lines)
    resume(piece)
    void keepHere()
  }

  /** What was done to the piece and has not reached the server goes on from where it was. */
  function resume({ id, attempt }: OpenPiece) {
    const entry = outbox.find(keyOfPiece(id))
    if (entry?.kind !== 'piece') return
    const known = history.value.moments.filter(
      ({ number }) => number < (entry.moments[0]?.number ?? Infinity),
    )
    const fresh = entry.moments.map((moment) => ({
      heard: false,
      ...moment,
      at: null,
      gesture: null,
      name: '',
    }))
    history.value = { moments: [...known, ...fresh], standsAt: entry.standsAt }
    document.value = entry.document
    saving.value?.resume(entry, attempt)
  }

  function take(piece: OpenPiece, lines: readonly Schemas['MomentLine'][]) {
    saving.value?.close()
    audition(null)
    letGoOfAll()
    id.value = piece.id
    document.value = piece.document
    table.value = { patternId: piece.document.patterns[0]?.id ?? '', row: null }
    opened.value = { number: piece.stands_at, document: piece.document }
    history.value = withLines({ moments: [], standsAt: piece.stands_at }, lines)
    saving.value = useSaving(piece.id, piece.revision, piece.document)
  }

  /** See and hear the pattern as `change` would make it, until it is let go (null) or anything is really changed. */
  function audition(change: ((pattern: Pattern) => Pattern) | null) {
    tried.value = change
    triedIn.value = null
  }
  /** The same with the first pattern of a whole `piece`, in its tempo, scale and swing. */
  function auditionPiece(piece: Piece) {
    const [first] = piece.patterns
    if (!first) return
    tried.value = ({ id, name }) => ({ ...first, id, name })
    triedIn.value = piece
  }
  /** The piece whose tempo, scale and swing are heard. */
  const heard = computed(() => triedIn.value ?? document.value)
  /** A lane as it stands, whatever is tried on it. */
  const laneStanding = (laneId: string | undefined) =>
    standing.value?.lanes.find(({ id }) => id === laneId) ?? null
  /** Whether there is nothing yet to hear, but for what is tried. */
  const isEmpty = computed(() => standing.value?.lanes.length === 0)

  const isTried = computed(() => tried.value !== null)
  /** Do something to the document, and go on with what is tried out on it. */
  function acceptAudition(act: () => unknown) {
    const before = tried.value
    act()
    if (before)
      tried.value = (pattern) => ({
        ...before(pattern),
        lanes: withStanding(before(pattern).lanes, pattern.lanes),
      })
  }

  /** Put the piece away. What is not saved yet is in the outbox, and is sent from there. */
  function close() {
    opening.cancel()
    saving.value?.close()
    saving.value = null
    document.value = id.value = opened.value = null
    history.value = noHistory
  }

  /**
   * Change the document. `label` names the moment; steps of one `gesture` are one moment, each of them applied to the
   * document as it was before the gesture.
   */
  function edit(label: string, change: (piece: Piece) => Piece, gesture: string | null = null) {
    if (!document.value) return
    const before = withSilenceOf(baseOf(history.value, document.value, gesture), document.value)
    const after = [...onChange].reduce(
      (after, adapt) => adapt(before, after, hereId(), gesture),
      change(before),
    )
    // A change that changes nothing is no moment; steps of a gesture that led back are, since they were seen.
    if (momentOf(history.value, gesture) ? after === document.value : isSame(after, document.value))
      return audition(null)
    const remembered = remember(history.value, label, before, after, gesture)
    history.value = remembered.history
    show(after, remembered.fresh)
    audition(null) // last: what was tried and is now so goes on without a break
  }

  /**
   * Change the document into what `ask` answers; null: leave it. What a hand has done meanwhile stays: only what the answer
   * changed is laid on it, and where both changed the same, it is asked again. Whether it was changed.
   */
  async function editAsAnswered(
    label: string | (() => string),
    ask: (piece: Piece) => Promise<Piece | null>,
  ): Promise<boolean> {
    const pieceId = id.value
    for (;;) {
      const before = document.value
      const after = before && id.value === pieceId ? await ask(before) : null
      const now = document.value
      if (!before || !after || !now || id.value !== pieceId) return false
      const result = now === before ? after : laidOn(before, after, now)
      if (!result) continue
      edit(typeof label === 'string' ? label : label(), () => result)
      return true
    }
  }
  /** Lay what `ask` answers on lanes of the pattern: fields by lane. Whether anything was changed. */
  function editLanesAsAnswered(
    label: string | (() => string),
    ask: () => Promise<ReadonlyMap<string, Patch> | null>,
  ): Promise<boolean> {
    const here = hereId()
    return editAsAnswered(label, async (before) => {
      const patches = await ask()
      if (!patches?.size) return null
      // What hands hold is heard rather than what is stored: a patch that says what is held speaks of both.
      for (const [laneId, { keys }] of patches)
        if (keys && liveKeys.value.has(laneId)) holdKeys(laneId, keys as Keys)
      return withLanes(before, here, (all) => all.map((lane) => ({ ...lane, ...patches.get(lane.id) })))
    })
  }

  /** What else a change changes: movements follow the controls that they are of. */
  const onChange = new Set<
    (before: Piece, after: Piece, patternId: string, gesture: string | null) => Piece
  >()
  /** Put the last moment right, as if it had been so: what nobody hears, or what was told too late. */
  function amend(change: (piece: Piece) => Piece) {
    const last = history.value.moments.find(({ number }) => number === history.value.standsAt)
    if (!document.value || !last) return
    const after = change(document.value)
    if (isSame(after, document.value)) return
    const amended = { ...last, document: after }
    history.value = {
      ...history.value,
      moments: history.value.moments.map((moment) => (moment === last ? amended : moment)),
    }
    show(after, [amended])
  }

  /** Change the document without a moment of history: mute and solo. */
  function editQuietly(change: (piece: Piece) => Piece) {
    if (!document.value) return
    const after = change(document.value)
    if (!isSame(after, document.value)) show(after)
  }

  const hereId = () => pattern.value?.id ?? ''
  function editPattern(label: string, change: (pattern: Pattern) => Pattern, gesture: string | null = null) {
    const here = hereId()
    edit(label, (piece) => withPattern(piece, here, change), gesture)
  }
  function editLanes(label: string, change: (lanes: Lane[]) => Lane[], gesture: string | null = null) {
    const here = hereId()
    edit(label, (piece) => withLanes(piece, here, change), gesture)
  }
  function editLane(
    laneId: string,
    label: string,
    change: (lane: Lane) => Lane,
    gesture: string | null = null,
  ) {
    const here = hereId()
    edit(label, (piece) => withLane(piece, here, laneId, change), gesture)
  }
  function silence(laneId: string, change: Partial<Pick<Lane, 'mute' | 'solo'>>) {
    const here = hereId()
    editQuietly((piece) => withLane(piece, here, laneId, (lane) => ({ ...lane, ...change })))
  }

  /** Put a pattern on the table; `row`: as it is in a row of the running order. */
  function choosePattern(id: string, row: PlacedRow | null = null) {
    audition(null)
    if (patterns.value.some((one) => one.id === id)) table.value = { patternId: id, row }
  }

  /** Take a gesture back to where it began, as if it had never been. */
  function takeBack(gesture: string) {
    if (momentOf(history.value, gesture)) takeBackLast()
  }
  /** Take the last thing that was done back, as if it had never been. */
  function takeBackLast() {
    const last = history.value.moments.at(-1)
    const before = momentBeside(history.value, -1)?.document
    if (!last || !before || !document.value || last.number !== history.value.standsAt) return
    history.value = withoutLast(history.value)
    saving.value?.forget(last.number)
    show(withSilenceOf(before, document.value))
  }

  // One step through the history after the other: a document may have to be fetched first.
  const steps = useInTurn()
  const inTurn = async <Result>(act: () => Promise<Result>) => (await steps.run(act)) ?? null

  /** Go back to before the last moment. Its name; null if there is none before it. */
  const undo = () =>
    inTurn(async () => {
      const undone = history.value.moments.find(({ number }) => number === history.value.standsAt)
      const before = momentBeside(history.value, -1)
      return undone && before && (await stand(before)) ? undone.label : null
    })

  /** Do again what was undone last. Its name; null if there is nothing. */
  const redo = () =>
    inTurn(async () => {
      const next = momentBeside(history.value, 1)
      return next && (await stand(next)) ? next.label : null
    })

  /** Go to any moment of the history. */
  const goTo = (moment: Moment) => inTurn(() => stand(moment))

  const placeAt = (pieceId: number, number: number) => ({ params: { path: { piece_id: pieceId, number } } })
  /** The document as it was at a moment. */
  async function documentAt(number: number): Promise<Piece | null> {
    const known = history.value.moments.find((moment) => moment.number === number)?.document
    if (known || id.value === null) return known ?? null
    return (await answer(api.GET('/api/pieces/{piece_id}/moments/{number}', placeAt(id.value, number))))
      .document
  }
  /** A place of the trail: something was heard on the pattern, and left again. */
  function rememberHeard(label: string, change: (pattern: Pattern) => Pattern) {
    if (!document.value) return
    const heard = withHeard(history.value, label, withPattern(document.value, hereId(), change))
    history.value = heard.history
    saving.value?.note(document.value, history.value.standsAt, [heard.fresh])
  }
  async function namePlace(number: number, name: string) {
    if (id.value === null) return
    await saving.value?.flush() // it may not be there yet
    await answer(
      api.PATCH('/api/pieces/{piece_id}/moments/{number}', { ...placeAt(id.value, number), body: { name } }),
    )
    history.value = withName(history.value, number, name)
  }
  const coverAt = (number: number) =>
    answer(api.GET('/api/pieces/{piece_id}/moments/{number}/cover', placeAt(id.value ?? 0, number)))
  /** The place before the one that stands. */
  const before = () => momentBeside(history.value, -1)

  async function stand({ number }: Moment): Promise<boolean> {
    const pieceId = id.value
    const there = await documentAt(number)
    if (pieceId === null || !there) return false
    if (id.value !== pieceId || !document.value) return false
    audition(null)
    history.value = standingAt(history.value, number, there)
    const next = withSilenceOf(there, document.value)
    // What changed should be seen: if it is not in the pattern on the table, that one is chosen in which it is.
    const changed = next.patterns.filter((one) => !isSame(one, patterns.value.find(({ id }) => id === one.id))) // prettier-ignore
    show(next)
    const elsewhere = changed.some(({ id }) => id === hereId()) ? undefined : changed[0]
    if (elsewhere) choosePattern(elsewhere.id)
    return true
  }

  function show(next: Piece, fresh: readonly Moment[] = []) {
    document.value = next
    saving.value?.note(next, history.value.standsAt, fresh)
  }

  /** After a conflict: open what the other one saved. */
  async function showTheirs() {
    const pieceId = id.value
    if (pieceId === null) return
    const theirs = await opening.ask(() => fetchPiece(pieceId))
    if (!theirs) return
    saving.value?.giveUp()
    take(...theirs)
  }

  /** After a conflict: store what is here as a piece of its own, and go on with that. Returns its id. */
  async function keepMineAsCopy(): Promise<number | null> {
    if (!document.value) return null
    const copy = { ...document.value, name: `${document.value.name.slice(0, 70)}, my copy` }
    const stored = await answer(api.POST('/api/pieces', { body: { name: copy.name, document: copy } }))
    saving.value?.giveUp()
    take(stored, await answer(api.GET('/api/pieces/{piece_id}/moments', at(stored.id))))
    return stored.id
  }

  return {
    id, document, patterns, pattern, lanes, liveKeys, heldDetours, keysOf, holdKeys, letGoOfAll, storeKeys, score, stillScore, clockTempo, inTempo, row, dice, history, opened, saveState, problem,
    open, take, close, audition, auditionPiece, heard, laneStanding, isEmpty, isTried, acceptAudition, onChange, amend, edit, editAsAnswered, editLanesAsAnswered, editPattern, editLanes, editLane, silence, choosePattern, takeBack, takeBackLast, undo, redo, goTo, showTheirs,
    documentAt, rememberHeard, namePlace, coverAt, before,
    keepMineAsCopy,
    keepHere,
    isSaved: () => saving.value?.isSaved() ?? true,
    saveNow: () => saving.value?.flush(),
  } // prettier-ignore
})

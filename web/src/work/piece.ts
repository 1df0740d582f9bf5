import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  answer, api, type Lane, type OpenPiece, type Pattern, type Piece, type PlacedRow, type Schemas, type Score,
} from '@/api/client' // prettier-ignore
import { isAway } from '@/api/policy'
import { isSame } from '@/api/same'
import { useNewest } from '@/page/asking'
import { useAudition } from './audition'
import { scoreOf, withLane, withLanes, withPattern, withSilenceOf, type Patch } from './document' // prettier-ignore
import {
  baseOf, momentBeside, momentOf, noHistory, remember, withLines, withoutLast, type History, type Moment,
} from './history' // prettier-ignore
import { keepLast, lastOf } from './last'
import { useLive } from './live'
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
  const live = useLive()
  const audition = useAudition()
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
  /** What is seen and heard: the pattern on the table, or what is tried out on it. */
  const pattern = computed<Pattern | null>(() =>
    standing.value && audition.tried ? audition.tried.change(standing.value) : standing.value,
  )
  /** The piece whose tempo, scale and swing are heard. */
  const heard = computed(() => audition.tried?.piece ?? document.value)
  const lanes = computed<readonly Lane[]>(() => pattern.value?.lanes ?? [])
  const score = computed<Score | null>(() =>
    heard.value && pattern.value
      ? live.inTempo(scoreOf(heard.value, pattern.value, live.keys, live.detours))
      : null,
  )
  /** The same without what hands hold: how it begins. */
  const stillScore = computed<Score | null>(() =>
    heard.value && pattern.value ? live.inTempo(scoreOf(heard.value, pattern.value)) : null,
  )
  const row = computed(() => table.value.row)
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
    const earlier = history.value.moments.filter(
      ({ number }) => number < (entry.moments[0]?.number ?? Infinity),
    )
    const fresh = entry.moments.map((moment) => ({
      heard: false,
      ...moment,
      at: null,
      gesture: null,
      name: '',
    }))
    history.value = { moments: [...earlier, ...fresh], standsAt: entry.standsAt }
    document.value = entry.document
    saving.value?.resume(entry, attempt)
  }

  function take(piece: OpenPiece, lines: readonly Schemas['MomentLine'][]) {
    saving.value?.close()
    audition.end()
    live.letGoOfAll()
    id.value = piece.id
    document.value = piece.document
    table.value = { patternId: piece.document.patterns[0]?.id ?? '', row: null }
    opened.value = { number: piece.stands_at, document: piece.document }
    history.value = withLines({ moments: [], standsAt: piece.stands_at }, lines)
    saving.value = useSaving(piece.id, piece.revision, piece.document)
  }

  /** Whether there is nothing yet to hear, but for what is tried. */
  const isEmpty = computed(() => standing.value?.lanes.length === 0)

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
      return audition.end()
    const remembered = remember(history.value, label, before, after, gesture)
    history.value = remembered.history
    show(after, remembered.fresh)
    audition.end() // last: what was tried and is now so goes on without a break
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
      live.takePatches(patches)
      return withLanes(before, here, (all) => all.map((lane) => ({ ...lane, ...patches.get(lane.id) })))
    })
  }

  /** What else a change changes: movements follow the controls that they are of. */
  const onChange = new Set<
    (before: Piece, after: Piece, patternId: string, gesture: string | null) => Piece
  >()
  /**
   * Correct what was done since the moment of a number, by default the last one, as if it had been so: what nobody hears,
   * or what was told too late. A gesture that goes on begins from a moment that is corrected too.
   */
  function amend(change: (piece: Piece) => Piece, from = history.value.standsAt) {
    const { standsAt, moments } = history.value
    const now = document.value
    const after = now && standsAt >= from ? change(now) : now
    const corrected = moments.map((moment) => {
      if (moment.number < from) return moment
      const document = moment.number === standsAt ? after : moment.document && change(moment.document)
      return isSame(document, moment.document) ? moment : { ...moment, document }
    })
    if (corrected.some((moment, at) => moment !== moments[at]))
      history.value = { standsAt, moments: corrected }
    const last = corrected.filter(({ number }) => number === standsAt)
    if (after && !isSame(after, now)) show(after, last)
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
    audition.end()
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

  /** Go on with `next`, and store it with the moments that are new. */
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
    id, document, patterns, standing, pattern, lanes, isEmpty, heard, score, stillScore, row, dice, choosePattern,
    open, take, close, opened, keepHere, history, show, saveState, problem, showTheirs, keepMineAsCopy,
    edit, editAsAnswered, editLanesAsAnswered, editPattern, editLanes, editLane, editQuietly, silence, onChange, amend, takeBack, takeBackLast,
    isSaved: () => saving.value?.isSaved() ?? true,
    saveNow: () => saving.value?.flush(),
  } // prettier-ignore
})

import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answer, api, type Lane, type OpenPiece, type Pattern, type Piece, type Score } from '@/api/client'
import { scoreOf, withLane, withLanes, withPattern } from './document'
import { baseOf, noHistory, redo as redoIn, remember, undo as undoIn, type History } from './history'
import { useSaving } from './saving'

/** The piece that is open: its document, what was done to it, and whether it is saved. */
export const usePiece = defineStore('piece', () => {
  const id = ref<number | null>(null)
  const document = shallowRef<Piece | null>(null)
  const history = shallowRef<History>(noHistory)
  const saving = shallowRef<ReturnType<typeof useSaving> | null>(null)

  const pattern = computed<Pattern | null>(() => document.value?.patterns[0] ?? null)
  const lanes = computed<readonly Lane[]>(() => pattern.value?.lanes ?? [])
  const score = computed<Score | null>(() =>
    document.value && pattern.value ? scoreOf(document.value, pattern.value) : null,
  )
  const dice = computed(() => pattern.value?.dice ?? 0)
  const saveState = computed(() => saving.value?.state.value ?? 'saved')
  const problem = computed(() => saving.value?.problem.value ?? '')

  async function open(pieceId: number) {
    if (pieceId === id.value) return
    await close()
    take(await answer(api.GET('/api/pieces/{piece_id}', { params: { path: { piece_id: pieceId } } })))
  }

  function take(opened: OpenPiece) {
    saving.value?.close()
    id.value = opened.id
    document.value = opened.document
    history.value = noHistory
    saving.value = useSaving(opened.id, opened.revision)
  }

  /** Save what is left and put the piece away. */
  async function close() {
    await saving.value?.flush()
    saving.value?.close()
    saving.value = null
    document.value = id.value = null
    history.value = noHistory
  }

  /**
   * Change the document. `label` names the moment; steps of one `gesture` are one moment, each of them applied to the
   * document as it was before the gesture.
   */
  function edit(label: string, change: (piece: Piece) => Piece, gesture: string | null = null) {
    if (!document.value) return
    const before = baseOf(history.value, document.value, gesture)
    const after = change(before)
    if (after === document.value) return
    history.value = remember(history.value, label, before, after, gesture)
    show(after, label, gesture)
  }

  /** Change the document without a moment of history: mute and solo. */
  function editQuietly(change: (piece: Piece) => Piece) {
    if (document.value) show(change(document.value), null)
  }

  function editPattern(label: string, change: (pattern: Pattern) => Pattern, gesture: string | null = null) {
    const patternId = pattern.value?.id ?? ''
    edit(label, (piece) => withPattern(piece, patternId, change), gesture)
  }

  function editLanes(label: string, change: (lanes: Lane[]) => Lane[]) {
    const patternId = pattern.value?.id ?? ''
    edit(label, (piece) => withLanes(piece, patternId, change))
  }

  function editLane(
    laneId: string,
    label: string,
    change: (lane: Lane) => Lane,
    gesture: string | null = null,
  ) {
    const patternId = pattern.value?.id ?? ''
    edit(label, (piece) => withLane(piece, patternId, laneId, change), gesture)
  }

  function silence(laneId: string, change: Partial<Pick<Lane, 'mute' | 'solo'>>) {
    const patternId = pattern.value?.id ?? ''
    editQuietly((piece) => withLane(piece, patternId, laneId, (lane) => ({ ...lane, ...change })))
  }

  /** Take a gesture back to where it began, if it changed anything. */
  function takeBack(gesture: string) {
    if (history.value.done.at(-1)?.gesture === gesture) undo()
  }

  function undo(): string | null {
    const back = document.value && undoIn(history.value, document.value)
    if (!back) return null
    history.value = back.history
    show(back.document, `Undone: ${back.change.label}`)
    return back.change.label
  }

  function redo(): string | null {
    const again = document.value && redoIn(history.value, document.value)
    if (!again) return null
    history.value = again.history
    show(again.document, again.change.label)
    return again.change.label
  }

  function show(next: Piece, label: string | null, gesture: string | null = null) {
    document.value = next
    saving.value?.note(next, label, gesture)
  }

  /** After a conflict: open what the other one saved. */
  async function showTheirs() {
    const pieceId = id.value
    if (pieceId === null) return
    take(await answer(api.GET('/api/pieces/{piece_id}', { params: { path: { piece_id: pieceId } } })))
  }

  /** After a conflict: store what is here as a piece of its own, and go on with that. Returns its id. */
  async function keepMineAsCopy(): Promise<number | null> {
    if (!document.value) return null
    const copy = { ...document.value, name: `${document.value.name.slice(0, 70)}, my copy` }
    const opened = await answer(api.POST('/api/pieces', { body: { name: copy.name, document: copy } }))
    take(opened)
    return opened.id
  }

  return {
    id, document, pattern, lanes, score, dice, history, saveState, problem,
    open, take, close, edit, editPattern, editLanes, editLane, silence, takeBack, undo, redo, showTheirs, keepMineAsCopy,
    isSaved: () => saving.value?.isSaved() ?? true,
    saveNow: () => saving.value?.flush(),
  } // prettier-ignore
})

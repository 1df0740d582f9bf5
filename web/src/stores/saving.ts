/** Saving by itself: late enough to save a movement of the hand once, one save at a time, again after a failure. */
import { readonly, ref, shallowRef } from 'vue'

import { answer, api, ApiError, type Piece, type Schemas } from '@/api/client'

export type SaveState = 'saved' | 'saving' | 'refused' | 'unreachable' | 'conflict'
interface PendingMoment {
  readonly label: string
  readonly document: Piece
  readonly gesture: string | null
}

const QUIET_MS = 500
const AGAIN_MS = 3000

/** Saves the document of one open piece. `close` ends it. */
export function useSaving(id: number, firstRevision: number) {
  const state = ref<SaveState>('saved')
  const problem = shallowRef('')
  let revision = firstRevision
  let newest: Piece | null = null
  let moments: PendingMoment[] = []
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | null = null
  let isOpen = true

  /** Save `document` soon. `label`: its moment's name; null: no moment of history. */
  function note(document: Piece, label: string | null, gesture: string | null = null) {
    newest = document
    if (label !== null) {
      if (gesture !== null && moments.at(-1)?.gesture === gesture) moments = moments.slice(0, -1)
      moments = [...moments, { label: label.slice(0, 200), document, gesture }]
    }
    if (state.value === 'conflict') return
    state.value = 'saving'
    wait(QUIET_MS)
  }

  function wait(milliseconds: number) {
    clearTimeout(timer)
    if (isOpen) timer = setTimeout(() => void flush(), milliseconds)
  }

  /** Save what is not saved yet, now. */
  async function flush(): Promise<void> {
    clearTimeout(timer)
    while (running) await running
    if (!newest || state.value === 'conflict') return
    running = save(newest, moments).finally(() => {
      running = null
    })
    await running
  }

  async function save(document: Piece, sent: PendingMoment[]) {
    const body: Schemas['Save'] = {
      revision,
      document,
      moments: sent.map(({ label, document }) => ({ label, document })),
    }
    try {
      const stored = await answer(
        api.PUT('/api/pieces/{piece_id}', { params: { path: { piece_id: id } }, body }),
      )
      revision = stored.revision
      moments = moments.filter((moment) => !sent.includes(moment))
      if (newest === document) {
        newest = null
        state.value = 'saved'
      } else wait(QUIET_MS)
    } catch (reason) {
      const refusal = reason instanceof ApiError ? reason : new ApiError(0, 'failed', String(reason))
      problem.value = refusal.message
      if (refusal.status === 409) state.value = 'conflict'
      else if (refusal.status >= 400 && refusal.status < 500) state.value = 'refused'
      else {
        state.value = 'unreachable'
        wait(AGAIN_MS)
      }
    }
  }

  function close() {
    isOpen = false
    clearTimeout(timer)
  }

  return {
    state: readonly(state),
    problem: readonly(problem),
    isSaved: () => newest === null,
    note,
    flush,
    close,
  }
}

/** Saving by itself: late enough to save a movement of the hand once, one save at a time, again after a failure. */
import { readonly, ref, shallowRef } from 'vue'

import { answer, api, ApiError, type Piece, type Schemas } from '@/api/client'
import type { Moment } from './history'

export type SaveState = 'saved' | 'saving' | 'refused' | 'unreachable' | 'conflict'

const QUIET_MS = 500
const AGAIN_MS = 3000
/** Moments that one save takes along. */
const AT_ONCE = 50

interface Newest {
  readonly document: Piece
  readonly standsAt: number
}

/** Saves the document of one open piece. `close` ends it. */
export function useSaving(id: number, firstRevision: number) {
  const state = ref<SaveState>('saved')
  const problem = shallowRef('')
  let revision = firstRevision
  let newest: Newest | null = null
  let moments: readonly Moment[] = []
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | null = null
  let isOpen = true

  /** Save `document`, which stands at the moment of that number, soon; and the moments that are `fresh`. */
  function note(document: Piece, standsAt: number, fresh: readonly Moment[] = []) {
    newest = { document, standsAt }
    const first = fresh[0]?.number ?? Infinity
    moments = [...moments.filter(({ number }) => number < first), ...fresh]
    if (state.value === 'conflict') return
    state.value = 'saving'
    wait(QUIET_MS)
  }

  /** Forget a moment that was taken back before it was saved. */
  function forget(number: number) {
    moments = moments.filter((moment) => moment.number !== number)
  }

  function wait(milliseconds: number) {
    clearTimeout(timer)
    if (isOpen) timer = setTimeout(() => void flush(), milliseconds)
  }

  /** Save what is not saved yet, now. */
  async function flush(): Promise<void> {
    clearTimeout(timer)
    while (newest && state.value !== 'conflict') {
      while (running) await running
      if (!newest) return
      const before: Newest | null = newest
      running = save(before, moments.slice(0, AT_ONCE)).finally(() => {
        running = null
      })
      await running
      if (state.value !== 'saving' || newest !== before) return
    }
  }

  async function save(asked: Newest, sent: readonly Moment[]) {
    const isAll = sent.length === moments.length
    // Part of the way: the document is the one that the last moment sent stands for.
    const last = sent.at(-1)
    const document = isAll ? asked.document : (last?.document ?? asked.document)
    const body: Schemas['Save'] = {
      revision,
      document,
      stands_at: isAll ? asked.standsAt : (last?.number ?? asked.standsAt),
      moments: sent.flatMap(({ number, label, document }) => (document ? [{ number, label, document }] : [])),
    }
    try {
      const stored = await answer(
        api.PUT('/api/pieces/{piece_id}', { params: { path: { piece_id: id } }, body }),
      )
      revision = stored.revision
      moments = moments.filter((moment) => !sent.includes(moment))
      if (newest === asked && isAll) {
        newest = null
        state.value = 'saved'
      } else if (newest !== asked) wait(QUIET_MS)
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
    forget,
    flush,
    close,
  }
}

/** Saving by itself, through the outbox: late enough to save a movement of the hand once, and never lost on the way. */
import { computed, readonly, ref, shallowRef } from 'vue'

import { ApiError, type Piece } from '@/api/client'
import type { Moment } from './history'
import { useOutbox } from './outbox'
import { useSession } from './session'
import { keyOfPiece, type WaitingPiece } from './waiting'

export type SaveState = 'saved' | 'saving' | 'refused' | 'unreachable' | 'signed-out' | 'conflict'

const QUIET_MS = 500

/**
 * Saves the document of one open piece, which was `opened` as it was at `firstRevision`. `close` lets it go: what is not
 * sent yet stays in the outbox.
 */
export function useSaving(id: number, firstRevision: number, opened: Piece) {
  const outbox = useOutbox()
  const session = useSession()
  const key = keyOfPiece(id)
  const refusal = ref<'' | 'refused' | 'conflict'>('')
  const problem = shallowRef('')
  const isUnsaved = ref(false)
  let [revision, base] = [firstRevision, opened]
  let timer: ReturnType<typeof setTimeout> | undefined

  const state = computed<SaveState>(() => {
    if (refusal.value) return refusal.value
    if (!isUnsaved.value) return 'saved'
    return outbox.trouble || 'saving'
  })

  const leave = outbox.follow(key, {
    sent: (sent) => {
      if (sent.kind !== 'piece') return
      revision = sent.revision
      base = sent.document
      isUnsaved.value = outbox.find(key) !== undefined
      refusal.value = ''
    },
    refused: (reason) => {
      problem.value = reason instanceof Error ? reason.message : String(reason)
      refusal.value = reason instanceof ApiError && reason.status === 409 ? 'conflict' : 'refused'
    },
  })

  const waiting = (): WaitingPiece | undefined => {
    const entry = outbox.find(key)
    return entry?.kind === 'piece' ? entry : undefined
  }

  /** Save `document`, which stands at the moment of that number, soon; and the moments that are `fresh`. */
  function note(document: Piece, standsAt: number, fresh: readonly Moment[] = []) {
    const before = waiting()
    const first = fresh[0]?.number ?? Infinity
    const added = fresh.flatMap(({ number, label, document, heard }) =>
      document ? [{ number, label, document, heard }] : [],
    )
    const moments = [...(before?.moments ?? []).filter(({ number }) => number < first), ...added]
    put(document, standsAt, moments)
  }

  /** Forget a moment that was taken back before it was saved. */
  function forget(number: number) {
    const entry = waiting()
    if (entry) put(entry.document, entry.standsAt, entry.moments.filter((moment) => moment.number !== number)) // prettier-ignore
  }

  function put(document: Piece, standsAt: number, moments: WaitingPiece['moments']) {
    const before = waiting()
    isUnsaved.value = true
    outbox.put({
      kind: 'piece', key, id, name: document.name, user: session.user ?? '', at: before?.at ?? Date.now(),
      revision: before?.revision ?? revision, base: before ? before.base : base, attempt: before?.attempt,
      document, standsAt, moments,
    }) // prettier-ignore
    if (refusal.value === 'conflict') return
    refusal.value = ''
    outbox.unstick(key)
    clearTimeout(timer)
    timer = setTimeout(() => void outbox.send(), QUIET_MS)
  }

  /** Go on with what waited for this piece since it was last open. `attempt`: the save that made what stands now. */
  function resume(entry: WaitingPiece, attempt: string) {
    isUnsaved.value = true
    const isOurs = entry.attempt?.id === attempt && revision === entry.revision + 1
    if (entry.revision !== revision && !isOurs) {
      refusal.value = 'conflict'
      return
    }
    outbox.unstick(key)
    void outbox.send()
  }

  /** Send what is not saved yet, now. */
  async function flush(): Promise<void> {
    clearTimeout(timer)
    if (waiting() && refusal.value !== 'conflict') await outbox.send()
  }

  function close() {
    clearTimeout(timer)
    leave()
    if (waiting() && refusal.value !== 'conflict') void outbox.send()
  }

  return {
    state: readonly(state),
    problem: readonly(problem),
    revision: () => revision,
    isSaved: () => waiting() === undefined,
    note,
    forget,
    resume,
    flush,
    close,
    /** What is here is given up: the other's is shown, or ours was stored as a piece of its own. */
    giveUp: () => outbox.remove(key),
  }
}

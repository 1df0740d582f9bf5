import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'

import { answer, api, ApiError, type KeptLine, type Piece, type Schemas } from '@/api/client'
import { clipsApi, type Action, type EditedClip } from '@/api/clips'
import { holdsAllUp, isSignedOut, isTransient, isWaiting, pauseAfter } from '@/api/policy'
import { useNotices } from '@/page/notices'
import { useReach } from '@/page/reach'
import { useSession } from './session'
import { differencesOf, type Step } from './differences'
import { isSame } from '@/api/same'
import {
  allWaiting,
  clipKey,
  putWaiting,
  removeWaiting,
  unstored,
  written,
  type Attempt,
  type Waiting,
  type WaitingPiece,
} from './waiting'

/** Moments that one save takes along. */
const AT_ONCE = 50

export type Sent =
  | { kind: 'piece'; revision: number; document: Piece }
  | { kind: 'keeping'; clip: KeptLine }
  | ({ kind: 'edit' } & EditedClip)

interface Follower {
  sent(sent: Sent): void
  refused?(reason: unknown): void
}

/** What is sent in order: where one of them waits, those behind it do too. */
const targetOf = (entry: Waiting) => (entry.kind === 'edit' ? clipKey(entry.id) : entry.key)
const isConflict = (reason: unknown) => reason instanceof ApiError && reason.status === 409

/**
 * Everything that is to be stored goes through here. What cannot be sent now waits, survives the page, and is sent when
 * the server is back or somebody has signed in again, in the order in which it came.
 */
export const useOutbox = defineStore('outbox', () => {
  const notices = useNotices()
  const session = useSession()
  const entries = shallowRef<readonly Waiting[]>([])
  /** Why nothing is sent just now; '' while it is. */
  const trouble = shallowRef<'' | 'unreachable' | 'signed-out'>('')
  /** Keys whose sending somebody on the page follows: the open piece, a keeping with its notice. */
  const followed = new Map<string, Follower>()
  let failures = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  let sending: Promise<void> | null = null

  /** How many things wait: moments of pieces, bars to keep, edits of clips. */
  const count = computed(() =>
    entries.value.reduce((all, one) => all + (one.kind === 'piece' ? Math.max(1, one.moments.length) : 1), 0),
  )
  const find = (key: string) => entries.value.find((one) => one.key === key)

  /** Let it wait, in place of what waited under its key, until `send` or the next try. */
  function put(entry: Waiting) {
    entries.value = [...entries.value.filter(({ key }) => key !== entry.key), entry]
    putWaiting(entry)
  }
  function remove(key: string) {
    if (!find(key)) return
    entries.value = entries.value.filter((one) => one.key !== key)
    removeWaiting(key)
  }
  /** Tell `follower` what becomes of the entry of that key, until what this returns is called. */
  function follow(key: string, follower: Follower) {
    followed.set(key, follower)
    stuck.delete(key)
    return () => {
      if (followed.get(key) === follower) followed.delete(key)
    }
  }
  /**
   * Put it in and send it. Returns what it became, however long that takes, and what leaves it to itself; `waits` is
   * told where it could not be sent now. @throws what refused it
   */
  function deliver(entry: Waiting, waits: () => unknown): { sent: Promise<Sent>; leave: () => void } {
    let leave = () => {}
    const sent = new Promise<Sent>((resolve, reject) => {
      leave = follow(entry.key, { sent: resolve, refused: reject })
    }).finally(() => leave())
    put(entry)
    void send().then(() => find(entry.key) && waits())
    return { sent, leave: () => leave() }
  }

  /** Done when what waited when the page was left is known. */
  let ready: Promise<void> = Promise.resolve()
  /** Take up what waited when the page was left, and send it. */
  function begin(user: string): Promise<void> {
    failures = 0
    ready = takeUp(user)
    return ready.then(() => void send())
  }
  async function takeUp(user: string) {
    const stored = await allWaiting(user)
    const here = new Set(entries.value.map(({ key }) => key))
    entries.value = [...stored.filter(({ key }) => !here.has(key)), ...entries.value]
  }
  /** Whether anything waits on this page alone: it would be lost with it. */
  const isAtRisk = computed(() => entries.value.some(({ key }) => unstored.value.has(key)))
  /** Whether what waits under a key outlives the page, once that is known. */
  async function isSafe(key: string): Promise<boolean> {
    await written()
    return !unstored.value.has(key)
  }

  /** Send what waits; once more later where that cannot be. */
  function send(): Promise<void> {
    clearTimeout(timer)
    return (sending ??= sendAll().finally(() => (sending = null)))
  }
  async function sendAll() {
    const tried = new Set<string>()
    /** What the server failed at: it is tried again later, and what lies behind it goes on. */
    const failed = new Map<string, unknown>()
    for (;;) {
      const isDue = (one: Waiting) =>
        one.user === session.user && !tried.has(one.key) && !stuck.has(one.key) && !failed.has(targetOf(one))
      const due = entries.value.find(isDue)
      if (!due) return failed.size ? tryLater([...failed.values()][0]) : undefined
      const entry = due.kind === 'piece' ? begun(due) : due
      tried.add(entry.key)
      // The page may be gone before the answer comes: the next one has to know what was tried.
      await written()
      try {
        const sent = await sendOne(entry)
        if (!failed.size) failures = 0
        trouble.value = ''
        done(entry, sent)
        // What came under the same key meanwhile is sent too.
        if (find(entry.key)) tried.delete(entry.key)
      } catch (reason) {
        if (holdsAllUp(reason)) return tryLater(reason)
        if (isWaiting(reason)) {
          failed.set(targetOf(entry), reason)
          continue
        }
        // What has been changed or taken back meanwhile was not what is refused: it is tried by itself.
        const isOld = find(entry.key) !== entry && !isConflict(reason)
        if (entry.kind === 'piece') abandon(entry.key)
        if (isOld) tried.delete(entry.key)
        else refused(entry, reason)
      }
    }
  }

  function tryLater(reason: unknown) {
    trouble.value = isSignedOut(reason) ? 'signed-out' : 'unreachable'
    if (isTransient(reason)) timer = setTimeout(() => void send(), pauseAfter(reason, ++failures))
  }

  /** Entries that are not tried again by themselves: another revision came first. */
  const stuck = new Set<string>()
  function done(entry: Waiting, sent: Sent) {
    if (entry.kind === 'piece' && entry.attempt && sent.kind === 'piece')
      afterSave(entry, entry.attempt, sent.revision)
    else remove(entry.key)
    const follower =
      followed.get(entry.key) ?? (entry.kind === 'edit' ? followed.get(clipKey(entry.id)) : undefined)
    if (follower) follower.sent(sent)
    else if (sent.kind === 'keeping') notices.say(`Kept “${sent.clip.name}”, which had waited.`)
  }
  /** The entry with the save that is tried now; one whose answer has not come is tried again as it was. */
  function begun(entry: WaitingPiece): WaitingPiece & { attempt: Attempt } {
    if (entry.attempt) return { ...entry, attempt: entry.attempt }
    const moments = entry.moments.slice(0, AT_ONCE)
    const last = moments.at(-1)
    // Part of the way: the document is the one that the last moment sent stands for.
    const isAll = moments.length === entry.moments.length || !last
    const { document, standsAt } = isAll ? entry : { document: last.document, standsAt: last.number }
    const trying = { ...entry, attempt: { id: crypto.randomUUID(), moments, document, standsAt } }
    put(trying)
    return trying
  }
  /** Forget the save that was tried: it was refused. */
  function abandon(key: string) {
    const now = find(key)
    if (now?.kind === 'piece') put({ ...now, attempt: undefined })
  }
  /** What a save did not take along stays, based on the revision that it made. */
  function afterSave({ key }: WaitingPiece, attempt: Attempt, revision: number) {
    const now = find(key)
    if (now?.kind !== 'piece') return
    const isSent = (one: Step) =>
      attempt.moments.some(({ number, document }) => number === one.number && isSame(document, one.document))
    const moments = now.moments.filter((one) => !isSent(one))
    const isAll = now.standsAt === attempt.standsAt && isSame(now.document, attempt.document)
    if (isAll && !moments.length) remove(key)
    else put({ ...now, moments, revision, base: attempt.document, attempt: undefined })
  }

  function refused(entry: Waiting, reason: unknown) {
    const tell = followed.get(entry.key)?.refused
    if (entry.kind === 'piece') {
      stuck.add(entry.key)
      if (tell) tell(reason)
      else if (isConflict(reason))
        notices.complain(`“${entry.name}” was changed elsewhere. What you did waits here: open it to choose.`)
      else
        notices.complain(`“${entry.name}” is not saved: ${reason instanceof Error ? reason.message : reason}`)
      return
    }
    remove(entry.key)
    if (tell) tell(reason)
    else notices.complain(reason)
  }
  const reach = useReach()
  watch(
    () => reach.isAway,
    (isAway) => !isAway && void send(),
  )
  /** Try an entry again that was refused before. */
  const unstick = (key: string) => void stuck.delete(key)

  async function sendOne(entry: Waiting): Promise<Sent> {
    if (entry.kind === 'keeping') return { kind: 'keeping', clip: await clipsApi.keep(entry.body) }
    if (entry.kind === 'edit') {
      const { id, revision, action, chosen } = entry
      return { kind: 'edit', ...(await clipsApi.edit(id, revision, action as Action, chosen)) }
    }
    const { attempt } = begun(entry)
    const body: Schemas['Save'] = {
      attempt: attempt.id,
      revision: entry.revision,
      stands_at: attempt.standsAt,
      ...differencesOf(entry.base, attempt.moments, attempt.document),
    }
    const params = { path: { piece_id: entry.id } }
    const { revision } = await answer(api.PUT('/api/pieces/{piece_id}', { params, body }))
    return { kind: 'piece', revision, document: attempt.document }
  }

  return {
    entries,
    count,
    trouble,
    isAtRisk,
    isSafe,
    isReady: () => ready,
    find,
    put,
    remove,
    follow,
    deliver,
    unstick,
    begin,
    send,
  }
})

/** What waits for the server, in the browser's own database: it outlives reloads, crashes and lost connections. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { shallowRef } from 'vue'

import type { Piece, Schemas } from '@/api/client'
import { differencesOf, documentsOf, type Differences, type Step } from './differences'

interface Entry {
  /** One of a key: what comes later takes its place. */
  readonly key: string
  /** Whose it is: nobody else sends it. */
  readonly user: string
  /** When it was put here first, in milliseconds; entries are sent in this order. */
  readonly at: number
}
/** A piece as it stands, and the moments since. */
interface Since {
  readonly document: Piece
  readonly standsAt: number
  readonly moments: readonly Step[]
}
/** What was done to a piece since the revision that it is based on, and the document of that. */
export interface WaitingPiece extends Entry, Since {
  readonly kind: 'piece'
  readonly id: number
  readonly name: string
  readonly revision: number
  readonly base: Piece | null
  /** A save whose answer has not come: it is sent again as it was, under its id, before anything else. */
  readonly attempt?: Attempt | undefined
}
export interface Attempt extends Since {
  readonly id: string
}
/** Bars that are to be kept. */
export interface WaitingKeeping extends Entry {
  readonly kind: 'keeping'
  readonly body: Schemas['Keeping']
  readonly asked: number
}
/** An edit of a clip's notes. */
export interface WaitingEdit extends Entry {
  readonly kind: 'edit'
  readonly id: number
  readonly revision: number
  readonly action: object
  readonly chosen: number[][]
}
export type Waiting = WaitingPiece | WaitingKeeping | WaitingEdit

export const keyOfPiece = (id: number) => `piece ${id}`

/** Under this key a clip's page looks after edits that an earlier page left waiting. */
export const clipKey = (id: number) => `clip ${id}`

// ---- As it is stored: pieces as differences ----
type Packed<Whole> = Omit<Whole, keyof Since | 'attempt'> & Differences & { standsAt: number }
type PackedPiece = Packed<WaitingPiece> & { attempt?: Packed<Attempt> | undefined }
type Packed1 = PackedPiece | WaitingKeeping | WaitingEdit
/** `key`: the tab's and the entry's, so that two tabs of one piece keep what each of them did. */
type Stored = Packed1 & { readonly of?: string; readonly tab?: string }

/** This page; '' where the browser cannot say which pages are open: then they share their entries. */
const locks = typeof navigator === 'undefined' ? undefined : (navigator.locks as LockManager | undefined)
const TAB = locks ? crypto.randomUUID() : ''
const lockOf = (tab: string) => `jolly-lattice tab ${tab}`
// Held for as long as the page is open: its entries are nobody else's until then.
void locks?.request(lockOf(TAB), () => new Promise(() => {}))
const storedKey = (key: string) => (TAB ? `${TAB} ${key}` : key)

function packed(entry: Waiting): Packed1 {
  if (entry.kind !== 'piece') return entry
  const { base } = entry
  const pack = <Whole extends Since>({ document, moments, ...rest }: Whole) => ({
    ...rest,
    ...differencesOf(base, moments, document),
  })
  const { attempt, ...whole } = entry
  return { ...pack(whole), attempt: attempt && pack(attempt) }
}
function unpacked({ of, tab, ...asStored }: Stored): Waiting {
  const stored = { ...asStored, key: (tab === undefined ? null : of) ?? asStored.key } as Packed1
  if (stored.kind !== 'piece') return stored
  const { attempt, changes, moments, ...rest } = stored
  // Without a base the first change is all of the document, whatever it is laid over.
  const whole = (it: Differences) => documentsOf(stored.base ?? ({} as Piece), it)
  return {
    ...rest,
    ...whole({ changes, moments }),
    attempt: attempt && { id: attempt.id, standsAt: attempt.standsAt, ...whole(attempt) },
  }
}

interface Schema extends DBSchema {
  waiting: { key: string; value: Stored }
}

/** Until version 2 pieces waited whole. What they were based on was not kept with them. */
async function fromVersion1(store: { getAll(): Promise<object[]>; put(entry: Stored): Promise<unknown> }) {
  for (const one of await store.getAll()) {
    const old = one as WaitingPiece | WaitingKeeping | WaitingEdit
    if (old.kind === 'piece') await store.put(packed({ ...old, base: null }))
  }
}

/** How long another page, with an older version, may keep the database from being opened. */
const BLOCKED_MS = 3000
let opening: Promise<IDBPDatabase<Schema> | null> | undefined
const database = () => (opening ??= opened())
/** Null where there is none, as in private windows of some browsers: what waits then lasts as long as the page. */
function opened(): Promise<IDBPDatabase<Schema> | null> {
  const tooLong = new Promise<null>((resolve) => setTimeout(() => resolve(null), BLOCKED_MS))
  return Promise.race([openNow().catch(() => null), tooLong])
}
const openNow = async () =>
  openDB<Schema>('jolly-lattice', 2, {
    upgrade: (db, before, _now, { objectStore }) => {
      if (before < 1) db.createObjectStore('waiting', { keyPath: 'key' })
      else void fromVersion1(objectStore('waiting')) // the transaction waits for it, or fails with it
    },
    // A newer page wants another version: it shall not wait for this one.
    blocking: (_now, _wanted, event) => (event.target as IDBDatabase).close(),
  })

/** What the database does not hold: what is still to be written, and what it had no room for. By keys. */
export const unstored = shallowRef<ReadonlySet<string>>(new Set())
const mark = (key: string, isStored: boolean) => {
  const others = [...unstored.value].filter((one) => one !== key)
  unstored.value = new Set(isStored ? others : [...others, key])
}

/** Writes to the database one after the other; of several for a key only the newest is written. */
const unwritten = new Map<string, Waiting | null>()
let writing: Promise<void> | null = null
async function write() {
  const db = await database()
  for (const [key, entry] of unwritten) {
    unwritten.delete(key)
    try {
      if (entry) await db?.put('waiting', { ...packed(entry), key: storedKey(key), of: key, tab: TAB })
      else await db?.delete('waiting', storedKey(key))
      if (!unwritten.has(key)) mark(key, !entry || db !== null)
    } catch (reason) {
      // No room, or the database was closed: what waits is still on the page. Anything else is a fault of ours.
      if (!(reason instanceof DOMException)) throw reason
    }
  }
  writing = null
}
function later(key: string, entry: Waiting | null) {
  unwritten.set(key, entry)
  mark(key, !entry)
  writing ??= write()
}

export const putWaiting = (entry: Waiting) => later(entry.key, entry)
export const removeWaiting = (key: string) => later(key, null)

/**
 * All that waits of a musician's, the oldest first: what this page put there, and what pages did that are closed, which is
 * this page's from now on. Of several for one key the oldest; the others wait until that is sent.
 */
export async function allWaiting(user: string): Promise<Waiting[]> {
  await written()
  return locks ? locks.request('jolly-lattice taking over', () => takeOver(user)) : takeOver(user)
}
async function takeOver(user: string): Promise<Waiting[]> {
  const db = await database()
  const all = (await db?.getAll('waiting')) ?? []
  const heldLocks = (await locks?.query())?.held ?? []
  const isOpen = ({ tab }: Stored) => tab !== TAB && heldLocks.some(({ name }) => tab && name === lockOf(tab))
  const ours = all.filter((one) => one.user === user && !isOpen(one)).sort((one, other) => one.at - other.at)
  const taken = new Map<string, Waiting>()
  // What this page has done goes before what another has.
  for (const stored of [...ours].sort((one, other) => Number(other.tab === TAB) - Number(one.tab === TAB))) {
    const entry = readable(stored)
    if (!entry || taken.has(entry.key)) continue
    taken.set(entry.key, entry)
    if (stored.key === storedKey(entry.key)) continue
    const move = db?.transaction('waiting', 'readwrite')
    void move?.store.put({ ...packed(entry), key: storedKey(entry.key), of: entry.key, tab: TAB })
    void move?.store.delete(stored.key)
    await move?.done
  }
  return [...taken.values()].sort((one, other) => one.at - other.at)
}
/** One that cannot be read stays where it is, and keeps no other from being sent. */
function readable(stored: Stored): Waiting | null {
  try {
    return unpacked(stored)
  } catch {
    return null // differences that fit nothing fail in any way, deep in the library
  }
}

/** Done when all is written. */
export const written = async () => void (await writing)

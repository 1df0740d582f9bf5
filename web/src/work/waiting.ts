/** What waits for the server, in the browser's own database: it outlives reloads, crashes and lost connections. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'

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

// ---- As it is stored: pieces as differences ----
type Packed<Whole> = Omit<Whole, keyof Since | 'attempt'> & Differences & { standsAt: number }
type PackedPiece = Packed<WaitingPiece> & { attempt?: Packed<Attempt> | undefined }
type Stored = PackedPiece | WaitingKeeping | WaitingEdit

function packed(entry: Waiting): Stored {
  if (entry.kind !== 'piece') return entry
  const { base } = entry
  const pack = <Whole extends Since>({ document, moments, ...rest }: Whole) => ({
    ...rest,
    ...differencesOf(base, moments, document),
  })
  const { attempt, ...whole } = entry
  return { ...pack(whole), attempt: attempt && pack(attempt) }
}
function unpacked(stored: Stored): Waiting {
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

let opening: Promise<IDBPDatabase<Schema> | null> | undefined
const database = () =>
  (opening ??= openDB<Schema>('jolly-lattice', 2, {
    upgrade: async (db, before, _now, { objectStore }) => {
      if (before < 1) db.createObjectStore('waiting', { keyPath: 'key' })
      else await fromVersion1(objectStore('waiting'))
    },
  }).catch(() => null)) // private windows of some browsers have none: then it lasts as long as the page

/** Writes to the database one after the other; of several for a key only the newest is written. */
const unwritten = new Map<string, Waiting | null>()
let writing: Promise<void> | null = null
async function write() {
  const db = await database()
  for (const [key, entry] of unwritten) {
    unwritten.delete(key)
    try {
      if (entry) await db?.put('waiting', packed(entry))
      else await db?.delete('waiting', key)
    } catch {
      // No room, or the database was closed: what waits is still on the page.
    }
  }
  writing = null
}
function later(key: string, entry: Waiting | null) {
  unwritten.set(key, entry)
  writing ??= write()
}

export const putWaiting = (entry: Waiting) => later(entry.key, entry)
export const removeWaiting = (key: string) => later(key, null)

/** All that waits of a musician's, the oldest first. */
export async function allWaiting(user: string): Promise<Waiting[]> {
  await written()
  const all = (await (await database())?.getAll('waiting')) ?? []
  const ours = all.filter((one) => one.user === user).sort((one, other) => one.at - other.at)
  return ours.flatMap((one) => {
    try {
      return [unpacked(one)]
    } catch {
      return [] // it stays where it is: one that cannot be read keeps no other from being sent
    }
  })
}

/** Done when all is written. */
export const written = async () => void (await writing)

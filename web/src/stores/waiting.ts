/** What waits for the server, in the browser's own database: it outlives reloads, crashes and lost connections. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'

import type { Piece, Schemas } from '@/api/client'

interface Entry {
  /** One of a key: what comes later takes its place. */
  readonly key: string
  /** Whose it is: nobody else sends it. */
  readonly user: string
  /** When it was put here first, in milliseconds; entries are sent in this order. */
  readonly at: number
}
/** A piece as it stands, and the moments since the revision that it is based on. */
export interface WaitingPiece extends Entry {
  readonly kind: 'piece'
  readonly id: number
  readonly name: string
  readonly revision: number
  readonly document: Piece
  readonly standsAt: number
  readonly moments: readonly { number: number; label: string; document: Piece }[]
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

interface Schema extends DBSchema {
  waiting: { key: string; value: Waiting }
}

let opening: Promise<IDBPDatabase<Schema> | null> | undefined
const database = () =>
  (opening ??= openDB<Schema>('jolly-lattice', 1, {
    upgrade: (db) => void db.createObjectStore('waiting', { keyPath: 'key' }),
  }).catch(() => null)) // private windows of some browsers have none: then it lasts as long as the page

/** Writes to the database one after the other; of several for a key only the newest is written. */
const unwritten = new Map<string, Waiting | null>()
let writing: Promise<void> | null = null
async function write() {
  const db = await database()
  while (unwritten.size) {
    const [[key, entry]] = unwritten as unknown as [[string, Waiting | null]]
    unwritten.delete(key)
    try {
      if (entry) await db?.put('waiting', entry)
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
  return all.filter((one) => one.user === user).sort((one, other) => one.at - other.at)
}

/** Done when all is written. */
export const written = async () => void (await writing)

/** What was here last, in the browser's own database: who was signed in, the piece, what was drawn and lay ready of it. */
import { openDB, type IDBPDatabase } from 'idb'

let opening: Promise<IDBPDatabase | null> | undefined
const database = () =>
  (opening ??= (async () =>
    openDB('jolly-lattice-last', 1, {
      upgrade: (db) => void db.createObjectStore('last'),
      blocking: (_now, _wanted, event) => (event.target as IDBDatabase).close(),
    }))().catch(() => null)) // private windows of some browsers have none: then the page opens with the server alone

/** Keep something in place of what had its name. Where there is no room, the older one stays. */
export async function keepLast(name: string, value: unknown): Promise<void> {
  try {
    await (await database())?.put('last', value, name)
  } catch (reason) {
    if (!(reason instanceof DOMException)) throw reason
  }
}
/** What has that name; undefined where there is nothing. */
export const lastOf = async <Value>(name: string): Promise<Value | undefined> =>
  (await database())?.get('last', name) as Promise<Value | undefined>

/** Forget all: the next to sign in here is somebody else. */
export const forgetLast = async (): Promise<void> => (await database())?.clear('last')

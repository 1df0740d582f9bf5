/** What was done in the open page, so that it can be undone: whole documents, since a document is small and shared. */
import type { Piece } from '@/api/client'
import { withSilenceOf } from './document'

/** `gesture`: what belongs to one movement of the hand; its steps are one change. */
export interface Change {
  readonly label: string
  readonly before: Piece
  readonly after: Piece
  readonly gesture: string | null
}

export interface History {
  readonly done: readonly Change[]
  readonly undone: readonly Change[]
}

export const noHistory: History = { done: [], undone: [] }

const isSame = (change: Change | undefined, gesture: string | null): change is Change =>
  change !== undefined && gesture !== null && change.gesture === gesture

/** The document that a change made by `gesture` starts from: the one before the gesture, if it goes on. */
export function baseOf(history: History, now: Piece, gesture: string | null): Piece {
  const last = history.done.at(-1)
  return isSame(last, gesture) ? withSilenceOf(last.before, now) : now
}

export function remember(
  history: History,
  label: string,
  before: Piece,
  after: Piece,
  gesture: string | null,
): History {
  const done = isSame(history.done.at(-1), gesture) ? history.done.slice(0, -1) : history.done
  return { done: [...done, { label, before, after, gesture }], undone: [] }
}

/** History and document after undoing the last change; null if there is none. */
export function undo(
  history: History,
  now: Piece,
): { history: History; document: Piece; change: Change } | null {
  const change = history.done.at(-1)
  if (!change) return null
  const moved = { done: history.done.slice(0, -1), undone: [...history.undone, change] }
  return { history: moved, document: withSilenceOf(change.before, now), change }
}

/** History and document after doing again what was undone last; null if there is nothing. */
export function redo(
  history: History,
  now: Piece,
): { history: History; document: Piece; change: Change } | null {
  const change = history.undone.at(-1)
  if (!change) return null
  // Done again, it is finished: a gesture that still goes on starts a change of its own.
  const moved = { done: [...history.done, { ...change, gesture: null }], undone: history.undone.slice(0, -1) }
  return { history: moved, document: withSilenceOf(change.after, now), change }
}

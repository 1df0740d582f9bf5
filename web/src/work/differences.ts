/** What was changed of a piece, as JSON Patch says it (RFC 6902): what waits, and what is sent, is that. */
import { applyPatch, compare, type Operation } from 'fast-json-patch'

import type { Piece, Schemas } from '@/api/client'

export type Changes = Schemas['Operation'][]

/** The document that a moment led to. */
export interface Step {
  readonly number: number
  readonly label: string
  readonly document: Piece
  readonly heard?: boolean
}
/** Moments one after the other, then the document as it stands, each as what it changed of the one before. */
export interface Differences {
  readonly moments: { number: number; label: string; changes: Changes; heard: boolean }[]
  readonly changes: Changes
}

/** So many operations say more than the whole document does: where a lane is gone, all after it change places. */
const MOST = 500
/** Where nobody knows any more what was there before, or nearly all is new, the document takes its place. */
function changesOf(from: Piece | null, to: Piece): Changes {
  const changes = from && (compare(from, to) as Changes)
  if (changes && changes.length <= MOST) return changes
  return [{ op: 'replace', path: '', value: to as Schemas['JsonValue'] }]
}

export function differencesOf(base: Piece | null, steps: readonly Step[], document: Piece): Differences {
  let before = base
  const moments = steps.map(({ number, label, document, heard = false }) => {
    const changes = changesOf(before, document)
    before = document
    return { number, label, changes, heard }
  })
  return { moments, changes: changesOf(before, document) }
}

/** The documents again that `differencesOf` was given. */
export function documentsOf(
  base: Piece,
  { moments, changes }: Differences,
): { moments: Step[]; document: Piece } {
  let now = base
  const after = (changes: Changes) =>
    (now = applyPatch(now, changes as Operation[], false, false).newDocument)
  return {
    moments: moments.map(({ number, label, changes, heard }) => ({
      number,
      label,
      document: after(changes),
      ...(heard && { heard }),
    })),
    document: after(changes),
  }
}

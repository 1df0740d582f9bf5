/** The tape outlives a reload: what sounded last of a few pieces, in the browser's own storage. */
import { BARS_ON_TAPE, type TapeStretch } from './tape'

const PREFIX = 'jolly-lattice-tape-'
const PIECES = 3
const STRETCHES = 4

/** Store the last bars of `stretches`. Where there is no room, nothing is stored. */
export function storeTape(pieceId: number, stretches: readonly TapeStretch[]) {
  const kept = stretches.slice(-STRETCHES).map((stretch) => {
    const oldest = stretch.nowTick - BARS_ON_TAPE * stretch.barTicks
    const controls = stretch.controls.filter(({ tick }) => tick >= oldest)
    return { ...stretch, notes: stretch.notes.filter(({ start }) => start >= oldest), controls }
  })
  try {
    localStorage.setItem(PREFIX + pieceId, JSON.stringify({ at: Date.now(), stretches: kept }))
    for (const key of storedKeys().slice(PIECES)) localStorage.removeItem(key)
  } catch {
    localStorage.removeItem(PREFIX + pieceId)
  }
}

/** What was stored of a piece; nothing if it cannot be read. */
export function storedTape(pieceId: number): TapeStretch[] {
  try {
    const found = JSON.parse(localStorage.getItem(PREFIX + pieceId) ?? 'null') as {
      stretches?: TapeStretch[]
    } | null
    return (found?.stretches ?? []).filter(isWhole)
  } catch {
    return []
  }
}

/** Forget every tape: the next to sign in here is somebody else. */
export const forgetTapes = () => storedKeys().forEach((key) => localStorage.removeItem(key))

const isWhole = ({ notes, controls, score, nowTick, barTicks }: TapeStretch) =>
  Array.isArray(notes) &&
  Array.isArray(controls) &&
  Array.isArray(score?.lanes) &&
  nowTick >= 0 &&
  barTicks > 0

/** Keys of all stored tapes, the newest first. */
function storedKeys(): string[] {
  const at = (key: string) => (JSON.parse(localStorage.getItem(key) ?? '{}') as { at?: number }).at ?? 0
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(PREFIX))
    .sort((one, other) => at(other) - at(one))
}

/** The tape outlives a reload: what sounded last of a few pieces, in the browser's own storage. */
import { barsBefore } from '@/sound/time'
import { BARS_ON_TAPE, type TapeStretch } from '@/sound/tape'

const PREFIX = 'jolly-lattice-tape-'
/** Which pieces have one, newest first: no tape is read to know that. */
const ORDER = 'jolly-lattice-tapes'
const PIECES = 3
const STRETCHES = 4

/** Store the last bars of `stretches`. Where there is no room, nothing is stored. */
export function storeTape(pieceId: number, stretches: readonly TapeStretch[]) {
  const recent = stretches.slice(-STRETCHES).map((stretch) => {
    const oldest = barsBefore(stretch.nowTick, BARS_ON_TAPE, stretch.barTicks)
    const controls = stretch.controls.filter(({ tick }) => tick >= oldest)
    return { ...stretch, notes: stretch.notes.filter(({ start }) => start >= oldest), controls, leftOut: [] }
  })
  try {
    localStorage.setItem(PREFIX + pieceId, JSON.stringify({ stretches: recent }))
    const newest = [pieceId, ...storedPieces().filter((id) => id !== pieceId)]
    localStorage.setItem(ORDER, JSON.stringify(newest.slice(0, PIECES)))
    for (const key of storedKeys()) if (!isAmong(key, newest.slice(0, PIECES))) localStorage.removeItem(key)
  } catch {
    localStorage.removeItem(PREFIX + pieceId)
  }
}

/** What was stored of a piece; nothing if it cannot be read. */
export function storedTape(pieceId: number): TapeStretch[] {
  try {
    const stored = JSON.parse(localStorage.getItem(PREFIX + pieceId) ?? 'null') as {
      stretches?: TapeStretch[]
    } | null
    return (stored?.stretches ?? []).filter(isWhole)
  } catch {
    return []
  }
}

/** Forget every tape: the next to sign in here is somebody else. */
export const forgetTapes = () => [...storedKeys(), ORDER].forEach((key) => localStorage.removeItem(key))

const isWhole = ({ notes, controls, score, nowTick, barTicks }: TapeStretch) =>
  Array.isArray(notes) &&
  Array.isArray(controls) &&
  Array.isArray(score?.lanes) &&
  nowTick >= 0 &&
  barTicks > 0

/** The pieces whose tapes are stored, the one stored last first. */
function storedPieces(): number[] {
  try {
    const order: unknown = JSON.parse(localStorage.getItem(ORDER) ?? '[]')
    return Array.isArray(order) ? order.filter((id) => typeof id === 'number') : []
  } catch {
    return []
  }
}
const storedKeys = () => Object.keys(localStorage).filter((key) => key.startsWith(PREFIX))
const isAmong = (key: string, pieces: readonly number[]) => pieces.some((id) => key === PREFIX + id)

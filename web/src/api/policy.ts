/** What is tried again, and when: one policy for saving, keeping, clip edits and rendering alike. */
import { ApiError } from './error'

const FIRST_MS = 1000
const LONGEST_MS = 15_000

/** Whether the same may be asked again, and answered: no connection, too busy, or a failure of the server's. */
export const isTransient = (reason: unknown): boolean =>
  reason instanceof ApiError && (reason.status === 0 || reason.status === 429 || reason.status >= 500)

/** What says that nobody is behind the address now: no answer, or a proxy's for a server that is away or just beginning. */
export const isAwayStatus = (status: number): boolean => [0, 502, 503, 504].includes(status)
export const isAway = (reason: unknown): boolean => reason instanceof ApiError && isAwayStatus(reason.status)

/** Whether the musician has to sign in before it can be asked again. */
export const isSignedOut = (reason: unknown): boolean => reason instanceof ApiError && reason.status === 401

/** Whether what was asked waits, for the server or for the musician. */
export const isWaiting = (reason: unknown): boolean => isTransient(reason) || isSignedOut(reason)

/** Whether nothing else needs to be asked now: nobody is there, too much was asked, or the musician has to sign in. */
export const holdsAllUp = (reason: unknown): boolean =>
  isAway(reason) || isSignedOut(reason) || (reason instanceof ApiError && reason.status === 429)

/** How long to wait after so many failures in a row, in milliseconds: longer each time, or as the server says. */
export function pauseAfter(reason: unknown, failures: number): number {
  const asked = reason instanceof ApiError ? reason.retryAfterMs : null
  return asked ?? Math.min(LONGEST_MS, FIRST_MS * 2 ** Math.max(0, failures - 1))
}

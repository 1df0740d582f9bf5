/** What is tried again, and when: one policy for saving, keeping, clip edits and rendering alike. */
import { ApiError } from './client'

const FIRST_MS = 1000
const LONGEST_MS = 15_000

/** Whether the same may be asked again, and answered: no connection, too busy, or a failure of the server's. */
export const isTransient = (reason: unknown): boolean =>
  reason instanceof ApiError && (reason.status === 0 || reason.status === 429 || reason.status >= 500)

/** Whether the musician has to sign in before it can be asked again. */
export const isSignedOut = (reason: unknown): boolean => reason instanceof ApiError && reason.status === 401

/** Whether what was asked waits, for the server or for the musician. */
export const isWaiting = (reason: unknown): boolean => isTransient(reason) || isSignedOut(reason)

/** How long to wait after so many failures in a row, in milliseconds: longer each time, or as the server says. */
export function pauseAfter(reason: unknown, failures: number): number {
  const asked = reason instanceof ApiError ? reason.retryAfterMs : null
  return asked ?? Math.min(LONGEST_MS, FIRST_MS * 2 ** Math.max(0, failures - 1))
}

/** Act while nothing else is to be done, within `atMost` milliseconds at the latest. */
export function whenIdle(act: () => void, atMost: number) {
  // Not every browser knows when it is idle.
  if ('requestIdleCallback' in window) requestIdleCallback(act, { timeout: atMost })
  else setTimeout(act, atMost / 2)
}

/** A test ends with what it began: what it left to be saved later, say, would otherwise act in the middle of the next. */
import { afterEach, vi } from 'vitest'

const spies = [vi.spyOn(globalThis, 'setTimeout'), vi.spyOn(globalThis, 'setInterval')]

afterEach(() => {
  for (const { mock } of spies) for (const { value } of mock.results) clearTimeout(value)
  for (const spy of spies) spy.mockClear()
})

/** No test reaches the network: what one asks after it has let go of its server is never answered. */
globalThis.fetch = () => new Promise(() => undefined)

/** A test's timers end with it: what it left to be saved later, say, would otherwise act in the middle of the next. */
import { afterEach, vi } from 'vitest'

const spies = [vi.spyOn(globalThis, 'setTimeout'), vi.spyOn(globalThis, 'setInterval')]

afterEach(() => {
  for (const { mock } of spies) for (const { value } of mock.results) clearTimeout(value)
  for (const spy of spies) spy.mockClear()
})

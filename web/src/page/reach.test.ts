import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { answer, api } from '@/api/client'
import { useReach } from './reach'

let isThere: boolean
let asked: number
beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  isThere = true
  asked = 0
  vi.stubGlobal('fetch', async () => {
    asked++
    if (!isThere) throw new TypeError('Failed to fetch')
    return Response.json({ error: { code: 'refused', message: 'no' } }, { status: 403 })
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})
const ask = () => answer(api.GET('/api/clips/spectrum' as never)).catch(() => undefined)

it('is away when nothing answers, and asked for until something does', async () => {
  const reach = useReach()
  await ask()
  expect(reach.isAway).toBe(false)
  isThere = false
  await ask()
  expect(reach.isAway).toBe(true)
  await vi.advanceTimersByTimeAsync(60_000)
  expect(asked).toBeLessThan(12) // later each time
  isThere = true
  await vi.advanceTimersByTimeAsync(16_000)
  expect(reach.isAway).toBe(false)
  const before = asked
  await vi.advanceTimersByTimeAsync(60_000)
  expect(asked).toBe(before)
})

it('is asked for at once when the network is back', async () => {
  const reach = useReach()
  isThere = false
  await ask()
  isThere = true
  window.dispatchEvent(new Event('online'))
  await vi.advanceTimersByTimeAsync(0)
  expect(reach.isAway).toBe(false)
})

import { afterEach, expect, it, vi } from 'vitest'
import { shallowRef } from 'vue'

import { onArrival } from './onArrival'

afterEach(() => vi.useRealTimers())

it('waits for what is not there yet, first come, first served', async () => {
  const there = shallowRef<readonly number[]>()
  const done: string[] = []
  const acts = ['one', 'two'].map(async (act) => {
    await onArrival(() => there.value)
    done.push(act)
  })
  expect(done).toEqual([])
  there.value = []
  await Promise.all(acts)
  expect(done).toEqual(['one', 'two'])
})

it('gives up on what does not come', async () => {
  vi.useFakeTimers()
  const never = onArrival(() => undefined)
  await vi.advanceTimersByTimeAsync(30_000)
  expect(await never).toBeUndefined()
})

import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { useLongWork } from './longWork'
import { useNotices } from './notices'

beforeEach(() => {
  setActivePinia(createPinia())
  vi.useFakeTimers()
})
afterEach(() => void vi.useRealTimers())

const never = () => new Promise<never>(() => {})

it('says nothing of what is done at once, and returns what comes of it', async () => {
  const work = useLongWork()
  expect(await work.during('writing', async () => 7)).toBe(7)
  await vi.advanceTimersByTimeAsync(1000)
  expect(work.shown).toEqual([])
})

it('says what takes longer than half a second until it is done', async () => {
  const work = useLongWork()
  let finish: (said: string) => void = () => {}
  const done = work.during('writing', () => new Promise<string>((resolve) => (finish = resolve)))
  await vi.advanceTimersByTimeAsync(499)
  expect(work.shown).toEqual([])
  await vi.advanceTimersByTimeAsync(2)
  expect(work.shown.map(({ saying }) => saying)).toEqual(['writing'])
  finish('written')
  expect(await done).toBe('written')
  expect(work.shown).toEqual([])
})

it('gives up what is cancelled, alone, and complains of nothing', async () => {
  const work = useLongWork()
  let told: AbortSignal | undefined
  const done = work.during('this', (signal) => ((told = signal), never()))
  void work.during('that', never)
  await vi.advanceTimersByTimeAsync(600)
  work.shown.find(({ saying }) => saying === 'this')!.cancel!()
  expect(await done).toBeUndefined()
  expect(told!.aborted).toBe(true)
  expect(work.shown.map(({ saying }) => saying)).toEqual(['that'])
  expect(useNotices().shown).toEqual([])
})

it('offers no end to what cannot be given up', async () => {
  const work = useLongWork()
  void work.during('storing', never, { canCancel: false })
  await vi.advanceTimersByTimeAsync(600)
  expect(work.shown[0]!.cancel).toBeNull()
})

it('says why something failed', async () => {
  const work = useLongWork()
  const fails = async () => {
    throw new Error('at most 100,000 notes in one zip')
  }
  expect(await work.during('writing', fails)).toBeUndefined()
  expect(await work.during('writing', fails, { about: 'clips.zip' })).toBeUndefined()
  expect(useNotices().shown.map(({ text, isError }) => [text, isError])).toEqual([
    ['at most 100,000 notes in one zip', true],
    ['clips.zip: at most 100,000 notes in one zip', true],
  ])
})

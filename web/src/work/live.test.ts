import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'

import type { HeldDetour } from '@/api/client'
import { useLive } from './live'

const detour = (start: number, end: number | null): HeldDetour => ({
  detour: { kind: 'shift', degrees: 2, semitones: 0 },
  at: 'once',
  start,
  end,
})
const keysFrom = (...starts: number[]) => ({
  held: starts.map((start) => ({ start, end: null, key: 60, velocity: 90 })),
  sustained: [{ start: 520, end: 560 }],
  let_go: [90, 510],
})
let live: ReturnType<typeof useLive>

beforeEach(() => {
  setActivePinia(createPinia())
  live = useLive()
})

it('what came too late counts from a later tick, all keeps its distance, and nothing before it moves', () => {
  live.holdKeys('reed', keysFrom(100, 500, 540))
  live.detours = [detour(100, 600), detour(550, null)]
  live.postpone(500, 620)
  const { held, sustained, let_go } = live.keys.get('reed')!
  expect(held.map(({ start }) => start)).toEqual([100, 620, 660])
  expect([sustained, let_go]).toEqual([[{ start: 640, end: 680 }], [90, 630]])
  expect(live.detours.map(({ start, end }) => [start, end])).toEqual([[100, 720], [670, null]]) // prettier-ignore
})

it('detours that are held still are held in the next pattern from its beginning', () => {
  live.detours = [detour(100, 600), detour(550, null)]
  live.beginAnew()
  expect(live.detours).toEqual([detour(0, null)])
})

it('patches that say what is held speak of what hands hold too, and of no other lane', () => {
  live.holdKeys('reed', keysFrom(100))
  live.takePatches(new Map([['reed', { keys: keysFrom() }], ['bell', { keys: keysFrom(1) }]])) // prettier-ignore
  expect([...live.keys]).toEqual([['reed', keysFrom()]])
})

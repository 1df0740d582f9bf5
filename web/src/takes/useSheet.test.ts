import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, ref } from 'vue'

import { createPinia, setActivePinia } from 'pinia'

import { useNotices } from '@/page/notices'
import { aServer, settle } from '@/testingServer'
import { useSheet } from './useSheet'

let server: ReturnType<typeof aServer>
beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer()
})
afterEach(() => vi.unstubAllGlobals())

const sheetOf = (id: number, count: number, vary = 0) => ({
  sheet: { id }, vary, takes: Array.from({ length: count }, (_, at) => ({ number: at + 1 })),
}) // prettier-ignore
const drawn = (...numbers: number[]) => ({ takes: numbers.map((number) => ({ number })) })
const numbers = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, at) => from + at)

function setUp() {
  const id = ref<number | null>(1)
  return { id, ...effectScope().run(() => useSheet(id))! }
}

it('fetches takes some at a time and shows how far it has come', async () => {
  const { takes, progress } = setUp()
  await settle()
  await server.of('/api/takes/1')[0]!.answer(sheetOf(1, 30))
  const batches = () => server.of('/api/takes/1/drawn')
  expect([batches().length, progress.value]).toEqual([2, { done: 0, total: 30 }])
  await batches()[1]!.answer(drawn(...numbers(13, 24)))
  await batches()[0]!.answer(drawn(...numbers(1, 12)))
  expect(progress.value).toEqual({ done: 24, total: 30 })
  await batches()[2]!.answer(drawn(...numbers(25, 30)))
  expect([progress.value, takes.value.map(({ number }) => number)]).toEqual([null, numbers(1, 30)])
})

it('asks again for what an answer could not hold', async () => {
  const { takes } = setUp()
  await settle()
  await server.of('/api/takes/1')[0]!.answer(sheetOf(1, 3))
  await server.of('/api/takes/1/drawn')[0]!.answer(drawn(1))
  await server.of('/api/takes/1/drawn')[1]!.answer(drawn(2, 3))
  expect(takes.value.length).toBe(3)
})

it('drops answers about a sheet that was left', async () => {
  const { id, sheet, takes } = setUp()
  await settle()
  id.value = 2
  await settle()
  await server.of('/api/takes/2')[0]!.answer(sheetOf(2, 1))
  await server.of('/api/takes/1')[0]!.answer(sheetOf(1, 9))
  await server.of('/api/takes/2/drawn')[0]!.answer(drawn(1))
  expect([sheet.value!.sheet.id, takes.value.length]).toEqual([2, 1])
})

it('forgets the notes where takes are varied, and says what failed', async () => {
  const { takes, take, open } = setUp()
  await settle()
  await server.of('/api/takes/1')[0]!.answer(sheetOf(1, 1))
  await server.of('/api/takes/1/drawn')[0]!.answer(drawn(1))
  void take(sheetOf(1, 1, 30) as never)
  await settle()
  expect(takes.value).toEqual([])
  void open(1)
  await settle()
  await server.of('/api/takes/1')[1]!.refuse(404, 'there is no such sheet')
  expect(useNotices().shown[0]).toMatchObject({ text: 'there is no such sheet', isError: true })
})

import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { defineComponent, ref, type Ref } from 'vue'

import { ApiError } from '@/api/client'
import { listPolicy, useList, useOffer, usePages } from './useLists'
import { useNotices } from './notices'

beforeEach(() => setActivePinia(createPinia()))
afterEach(() => vi.useRealTimers())

/** What a composable returns inside of a component. */
function within<Result>(use: () => Result) {
  let result!: Result
  const component = defineComponent(() => {
    result = use()
    return () => null
  })
  const plugins = [[VueQueryPlugin, listPolicy] as [typeof VueQueryPlugin, typeof listPolicy]]
  const wrapper = mount(component, { global: { plugins } })
  return { ...wrapper, result }
}
const settle = async () => {
  for (let turn = 0; turn < 5; turn++) await flushPromises()
}

test('a list is read when it is wanted, not before, and anew when it is asked for again', async () => {
  const isOpen: Ref<boolean> = ref(false)
  const fetch = vi
    .fn()
    .mockResolvedValueOnce(['Night Ferry'])
    .mockResolvedValueOnce(['Night Ferry', 'Slack Water'])
  const { result } = within(() => useList(['pieces'], fetch, isOpen))
  await settle()
  expect([fetch.mock.calls.length, result.lines.value]).toEqual([0, []])
  isOpen.value = true
  await settle()
  expect(result.lines.value).toEqual(['Night Ferry'])
  await result.again()
  expect(result.lines.value).toEqual(['Night Ferry', 'Slack Water'])
})

test('what cannot be reached is said once, and tried again by itself', async () => {
  vi.useFakeTimers()
  const away = new ApiError(0, 'unreachable', 'The server cannot be reached.')
  const fetch = vi
    .fn()
    .mockRejectedValueOnce(away)
    .mockRejectedValueOnce(away)
    .mockResolvedValue(['Night Ferry'])
  const { result } = within(() => useList(['pieces'], fetch))
  await vi.advanceTimersByTimeAsync(10)
  expect(useNotices().shown.map(({ text }) => text)).toEqual(['The server cannot be reached.'])
  await vi.advanceTimersByTimeAsync(4000)
  expect(result.lines.value).toEqual(['Night Ferry'])
  expect(useNotices().shown.length).toBe(1)
})

test('what is refused is said, and not tried again', async () => {
  const fetch = vi.fn().mockRejectedValue(new ApiError(422, 'document', 'no such set'))
  within(() => useList(['clips'], fetch))
  await settle()
  expect([fetch.mock.calls.length, useNotices().shown.map(({ text }) => text)]).toEqual([1, ['no such set']])
})

test('pages follow each other until all lines are there', async () => {
  const all = ['A', 'B', 'C']
  const fetch = vi.fn(async (first: number) => ({ total: all.length, found: all.slice(first, first + 2) }))
  const { result } = within(() => usePages(['clips'], fetch, ({ found }) => found))
  await settle()
  expect(result.lines.value).toEqual(['A', 'B'])
  await result.more()
  expect(result.lines.value).toEqual(all)
  await result.more()
  expect(fetch.mock.calls.map(([first]) => first)).toEqual([0, 2])
})

test('what the engine offers is asked for once, whoever wants it', async () => {
  const fetch = vi.fn().mockResolvedValue(['low-reed'])
  const one = within(() => [useOffer(['voices'], fetch), useOffer(['voices'], fetch)] as const)
  await settle()
  expect(one.result.map(({ value }) => value)).toEqual([['low-reed'], ['low-reed']])
  expect(fetch).toHaveBeenCalledTimes(1)
})

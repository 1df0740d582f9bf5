import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, shallowRef } from 'vue'

import { valueAt } from '@/work/document'
import { aLane, aScore, standInNews } from '@/testing'
import { useNotices } from '@/page/notices'
import { useRendering } from './useRendering'

type Question = Parameters<typeof standInNews>[0] & { row?: null }
let asked: { question: Question; answer: (isRefused?: boolean) => Promise<void> }[]

beforeEach(() => {
  setActivePinia(createPinia())
  asked = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const question: Question = JSON.parse(await request.text())
    return new Promise<Response>((resolve) => {
      asked.push({
        question,
        answer: async (isRefused = false) => {
          const error = { error: { code: 'document', message: 'lane “Thud”: no', problems: [] } }
          resolve(isRefused ? Response.json(error, { status: 422 }) : Response.json(standInNews(question)))
          await settle()
        },
      })
    })
  })
})
afterEach(() => vi.unstubAllGlobals())

const settle = async () => {
  for (let turn = 0; turn < 5; turn++) await new Promise((resolve) => setTimeout(resolve))
  await nextTick()
}
const at = (steps: number): Question => ({
  score: aScore(aLane('thud', { source: { kind: 'drawn', steps, hits: [] } }), aLane('bell')),
  dice: 1,
  window: { first_bar: 0, bars: 1 },
})

describe('asking the engine', () => {
  it('asks one thing at a time, then only the newest', async () => {
    const question = shallowRef<Question | null>(at(4))
    const scope = effectScope()
    const { rendering } = scope.run(() => useRendering(question))!
    await settle()
    for (const steps of [5, 6, 7]) question.value = at(steps)
    await settle()
    expect(asked.length).toBe(1)
    await asked[0]!.answer()
    expect(rendering.value).not.toBeNull()
    expect(asked.map(({ question }) => valueAt(question.score.lanes[0]!, 'source.steps'))).toEqual([4, 7])
    await asked[1]!.answer()
    expect(rendering.value!.lanes[0]!.steps).toBe(7)
    scope.stop()
  })

  it('keeps the pictures of lanes that did not change', async () => {
    const question = shallowRef<Question | null>(at(4))
    const scope = effectScope()
    const { rendering } = scope.run(() => useRendering(question))!
    await settle()
    await asked[0]!.answer()
    const before = rendering.value!.lanes[1]
    question.value = at(5)
    await settle()
    // It says what it knows, and what it knows does not come again.
    const { marks, lanes } = standInNews(asked[0]!.question)
    expect([asked[1]!.question.known, standInNews(asked[1]!.question).lanes.length, lanes.length]).toEqual([
      marks,
      1,
      2,
    ])
    await asked[1]!.answer()
    expect(rendering.value!.lanes.map(({ id, steps }) => [id, steps])).toEqual([['thud', 5], ['bell', 16]]) // prettier-ignore
    expect(rendering.value!.lanes[1]).toBe(before)
    scope.stop()
  })

  it('says what was refused and keeps what it showed', async () => {
    const question = shallowRef<Question | null>(at(4))
    const scope = effectScope()
    const { rendering } = scope.run(() => useRendering(question))!
    await settle()
    await asked[0]!.answer()
    const before = rendering.value
    question.value = at(5)
    await settle()
    await asked[1]!.answer(true)
    expect(useNotices().shown.map(({ text }) => text)).toEqual(['lane “Thud”: no'])
    expect(rendering.value).toBe(before)
    scope.stop()
  })

  it('asks no more once its screen is gone, though nobody answered', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout'] })
    let count = 0
    vi.stubGlobal('fetch', async ({ method }: Request) => {
      if (method === 'POST') count++
      throw new TypeError('no connection')
    })
    const scope = effectScope()
    scope.run(() => useRendering(shallowRef(at(4))))
    await vi.advanceTimersByTimeAsync(5000)
    expect(count).toBeGreaterThan(1)
    scope.stop()
    const before = count
    await vi.advanceTimersByTimeAsync(60_000)
    vi.useRealTimers()
    expect(count).toBe(before)
  })
})

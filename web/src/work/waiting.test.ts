import 'fake-indexeddb/auto'
import { IDBFactory } from 'fake-indexeddb'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { aLane, aPiece } from '@/testing'
import type { WaitingPiece } from './waiting'

/** Locks as the browser has them, so far as pages ask for them. */
function locks() {
  const held = new Set<string>()
  return {
    held,
    request: async (name: string, act: () => Promise<unknown>) => {
      held.add(name)
      return act().finally(() => held.delete(name))
    },
    query: async () => ({ held: [...held].map((name) => ({ name })) }),
  }
}
let browser: ReturnType<typeof locks>
beforeEach(() => {
  vi.stubGlobal('indexedDB', new IDBFactory())
  vi.stubGlobal('navigator', { locks: (browser = locks()) })
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.resetModules() // what comes after has a page of its own
})

/** A page, with what is said of it when it is closed. */
async function aPage() {
  const before = new Set(browser.held)
  vi.resetModules()
  const page = await import('./waiting')
  const own = [...browser.held].filter((name) => !before.has(name))
  return { ...page, close: () => own.forEach((name) => browser.held.delete(name)) }
}
const entry = (velocity: number, at: number): WaitingPiece => ({
  kind: 'piece', key: 'piece 1', user: 'mara', at, id: 1, name: 'Night Ferry', revision: 1, base: aPiece(aLane('thud')),
  document: aPiece(aLane('thud', { velocity })), standsAt: 2, moments: [],
}) // prettier-ignore
const loudness = (all: readonly unknown[]) =>
  (all as WaitingPiece[]).map(({ document }) => document.patterns[0]!.lanes[0]!.velocity)

it('is what each of two open pages did, and the other’s once that is closed', async () => {
  const [one, two] = [await aPage(), await aPage()]
  one.putWaiting(entry(90, 1))
  two.putWaiting(entry(80, 2))
  await Promise.all([one.written(), two.written()])
  expect(loudness(await one.allWaiting('mara'))).toEqual([90])
  expect(loudness(await two.allWaiting('mara'))).toEqual([80])
  one.close()
  // Its own goes first; the other's waits until that is sent.
  expect(loudness(await two.allWaiting('mara'))).toEqual([80])
  two.removeWaiting('piece 1')
  expect(loudness(await two.allWaiting('mara'))).toEqual([90])
  const three = await aPage()
  expect(await three.allWaiting('mara')).toEqual([])
  two.removeWaiting('piece 1')
  await two.written()
  two.close()
  expect(await three.allWaiting('mara')).toEqual([])
})

it('is known to be on this page alone where the browser stores nothing', async () => {
  const page = await aPage()
  page.putWaiting(entry(90, 1))
  expect([...page.unstored.value]).toEqual(['piece 1'])
  await page.written()
  expect([...page.unstored.value]).toEqual([])
  vi.stubGlobal('indexedDB', {
    open: () => {
      throw new DOMException('private', 'SecurityError')
    },
  })
  const alone = await aPage()
  alone.putWaiting(entry(90, 1))
  await alone.written()
  expect([...alone.unstored.value]).toEqual(['piece 1'])
  alone.removeWaiting('piece 1')
  await alone.written()
  expect([...alone.unstored.value]).toEqual([])
})

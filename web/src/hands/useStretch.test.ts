import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'

import type { Patch } from '@/work/document'
import { useNotices } from '@/page/notices'
import { aLane, aPicture, takePiece } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { useStretch } from './useStretch'

let server: ReturnType<typeof aServer>
const patched: [string, Record<string, Patch>][] = []

beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer()
  patched.length = 0
})
afterEach(() => vi.unstubAllGlobals())

function setUp() {
  const piece = takePiece(aLane('thud'), aLane('bell'))
  const inView = { starts: [0, 100, 200, 300] }
  const stretch = useStretch({
    meant: (lane) => [lane],
    lanes: () => piece.lanes,
    picture: () => aPicture(inView),
    patchAsAnswered: async (label, ask) => void patched.push([label, await ask()]),
  })
  return { stretch, inView, bell: piece.lanes[1]! }
}

it('says how many steps begin in it, of whom', () => {
  const { stretch, bell } = setUp()
  expect(stretch.says.value).toBe('')
  stretch.choose(bell, 100, 300)
  expect([stretch.says.value, stretch.of('bell'), stretch.of('thud')]).toEqual([
    '2 steps of bell', [100, 300], null,
  ]) // prettier-ignore
  stretch.drop()
  expect(stretch.of('bell')).toBe(null)
})

it('says the same when the view has gone on to other bars', () => {
  const { stretch, inView, bell } = setUp()
  stretch.choose(bell, 100, 300)
  inView.starts = [400, 500, 600, 700]
  expect(stretch.says.value).toBe('2 steps of bell')
})

it('is acted on as the engine says', async () => {
  const { stretch, bell } = setUp()
  stretch.choose(bell, 100, 300)
  stretch.burstNotes.value = 7
  void stretch.act('burst')
  await settle()
  const [asked] = server.to('/api/render/steps')
  expect(asked!.body).toMatchObject({
    lanes: ['bell'],
    first_tick: 100,
    end_tick: 300,
    action: 'burst',
    number: 7,
  })
  await asked!.answer({ patches: { bell: { velocity: 3 } } })
  expect(patched).toEqual([['a burst of 7', { bell: { velocity: 3 } }]])
})

it('begins with the first of every two cycles, and three notes of a ratchet', async () => {
  const { stretch, bell } = setUp()
  stretch.choose(bell, 100, 300)
  for (const [action, number] of [
    ['rule', 1],
    ['ratchet', 3],
  ] as const) {
    void stretch.act(action)
    await settle()
    expect(server.to('/api/render/steps').at(-1)!.body).toMatchObject({ action, number, of: 2 })
  }
})

it('with nothing chosen says what to do, and asks nothing', async () => {
  const { stretch } = setUp()
  await stretch.act('clear')
  expect(useNotices().shown[0]!.text).toMatch(/^Nothing is chosen/)
  expect(server.asked).toEqual([])
})

it('pastes what was copied where the hand is, into the lanes that are meant', async () => {
  const { stretch, bell } = setUp()
  stretch.choose(bell, 100, 300)
  void stretch.copy()
  await settle()
  const copied = [{ kind: 'steps' }]
  await server.to('/api/render/steps')[0]!.answer({ patches: {}, copied })
  stretch.drop()
  void stretch.paste(bell, 400)
  await settle()
  expect(server.to('/api/render/steps')[1]!.body).toMatchObject({ lanes: ['bell'], first_tick: 400, copied })
})

import 'fake-indexeddb/auto'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { aLane, aPiece } from '@/testing'
import { aServer, settle, signInAfresh } from '@/testingServer'
import { useOutbox } from './outbox'
import type { WaitingPiece } from './waiting'

let server: ReturnType<typeof aServer>
beforeEach(async () => {
  await signInAfresh()
  vi.useFakeTimers({ toFake: ['Date'] })
  server = aServer()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const entry = (id: number): WaitingPiece => ({
  kind: 'piece', key: `piece ${id}`, user: 'mara', at: id, id, name: `Piece ${id}`, revision: 1,
  base: aPiece(aLane('thud')), document: aPiece(aLane('thud', { velocity: 9 })), standsAt: 2, moments: [],
}) // prettier-ignore
const saves = () => server.asked.filter(({ method }) => method === 'PUT')

it('sends what lies behind something that the server fails at, and says that something waits', async () => {
  const outbox = useOutbox()
  for (const id of [1, 2, 3]) outbox.put(entry(id))
  void outbox.send()
  await settle()
  await saves()[0]!.refuse(500)
  await saves()[1]!.answer({ id: 2, revision: 2, stands_at: 2, changed_at: '' })
  await saves()[2]!.answer({ id: 3, revision: 2, stands_at: 2, changed_at: '' })
  expect(
    saves()
      .slice(0, 3)
      .map(({ path }) => path),
  ).toEqual(['/api/pieces/1', '/api/pieces/2', '/api/pieces/3'])
  expect([outbox.entries.map(({ key }) => key), outbox.trouble]).toEqual([['piece 1'], 'unreachable'])
  void outbox.send()
  await settle()
  await saves()[3]!.answer({ id: 1, revision: 2, stands_at: 2, changed_at: '' })
  expect([outbox.count, outbox.trouble]).toEqual([0, ''])
})

it('sends nothing more where nobody is there', async () => {
  const outbox = useOutbox()
  for (const id of [1, 2]) outbox.put(entry(id))
  void outbox.send()
  await settle()
  await saves()[0]!.refuse(503)
  expect([saves().length, outbox.count]).toEqual([1, 2])
})

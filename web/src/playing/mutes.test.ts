import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'

import 'fake-indexeddb/auto'
import { aLane, takePiece } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { useMutes } from './mutes'

let server: ReturnType<typeof aServer>
beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer()
  return async () => {
    await settle()
    vi.unstubAllGlobals()
  }
})

it('is no moment of history, and asks nothing', async () => {
  const piece = takePiece(aLane('thud'))
  useMutes().mute('thud', true)
  await settle()
  expect([piece.lanes[0]!.mute, piece.history.moments.length]).toEqual([true, 1])
  expect(server.to('/api/render/moves')).toEqual([])
})

it('of a lane that a movement mutes is one, and the movement becomes what the engine says', async () => {
  const row = { control: 'mute', points: [[0, 'on'], [100, 'muted']], loop_bars: null, off: false } // prettier-ignore
  const piece = takePiece(aLane('thud', { movements: [row as never] }))
  useMutes().mute('thud', true)
  await settle()
  const [asked] = server.to('/api/render/moves')
  expect(asked!.body.hands).toMatchObject([{ lane: 'thud', control: 'mute', was: 'on', now: 'muted', movement: row }]) // prettier-ignore
  await asked!.answer({ movements: [{ ...row, off: true }] })
  expect(piece.lanes[0]!.movements).toEqual([{ ...row, off: true }])
  expect(piece.history.moments.map(({ label }) => label)).toEqual(['New piece', 'thud: muted'])
})

import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'

import { aLane, takePiece } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { NO_KEYS } from '@/work/document'
import { useLive } from '@/work/live'
import { useHeldKeys } from './heldKeys'
import { pressed } from './timeline'

beforeEach(() => {
  setActivePinia(createPinia())
  return () => vi.unstubAllGlobals()
})

const pool = { pool: { kind: 'held', latch: 'off' } } as never

it('of hands go before those that are stored', () => {
  aServer()
  takePiece(aLane('reed', { keys: pressed(NO_KEYS, 60, 90, 0) }))
  const held = useHeldKeys()
  expect(held.keysOf('reed').held.length).toBe(1)
  useLive().holdKeys('reed', NO_KEYS)
  expect([held.keysOf('reed').held, held.keysOf('none').held]).toEqual([[], []])
})

it('are stored as the engine says they are left, without a moment of history', async () => {
  const server = aServer()
  const piece = takePiece(aLane('reed', { arpeggio: pool }), aLane('bell'))
  useLive().holdKeys('reed', pressed(NO_KEYS, 60, 90, 0))
  useHeldKeys().handsMoved()
  await settle()
  const [asked] = server.to('/api/melody/gather')
  expect(Object.keys(asked!.body.lanes)).toEqual(['reed'])
  const left = pressed(NO_KEYS, 62, 80, 0)
  await asked!.answer({ lanes: { reed: left } })
  await settle()
  expect([piece.lanes[0]!.keys, piece.history.moments.length]).toEqual([left, 1])
  expect(piece.lanes[1]!.keys).toEqual(NO_KEYS)
})

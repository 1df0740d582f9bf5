import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'

import type { HeldDetour } from '@/api/client'
import { useNotices } from '@/page/notices'
import { useReach } from '@/page/reach'
import { aLane, takePiece } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { useMoves } from './moves'
import { usePlaying } from './playing'

vi.mock('@/sound/audio', () => import('@/testingAudio'))

const held: HeldDetour = {
  detour: { kind: 'repeat', length: { note: 8, kind: 'plain', multiplier: 1, divisor: 1 } },
  at: 'once',
  start: 100,
  end: 500,
}

let server: ReturnType<typeof aServer>
beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer()
  return async () => {
    await settle() // what is still to be asked
    vi.unstubAllGlobals()
  }
})

/** A pattern that plays, and whose moves are written down. */
function recording() {
  const piece = takePiece(aLane('thud'))
  const playing = usePlaying()
  playing.player = {
    patternId: 'a',
    isPlaying: true,
    change: () => undefined,
    askAgain: () => undefined,
  } as never
  playing.isPlaying = true
  const listeners: ((late: number, tick: number) => unknown)[] = []
  vi.spyOn(playing, 'onLate').mockImplementation((listener) => {
    listeners.push(listener)
    return { off: () => undefined }
  })
  const moves = useMoves()
  moves.isOn = true
  const late = (from: number, tick: number) => listeners.forEach((tell) => tell(from, tick))
  return { piece, moves, late, written: () => piece.pattern!.moved_detours }
}

it('writes a detour down as it was heard, also where the answer to its end came late', () => {
  const { moves, late, written } = recording()
  expect(moves.recordDetour(held)).toBe(true)
  late(400, 700)
  expect(written()).toEqual([{ ...held, end: 800 }])
})

it('moves the points alone that this recording has written, where the answer came late', async () => {
  const { piece, late } = recording()
  await nextTick()
  const before = { control: 'busy', points: [[100, 5], [500, 9]], loop_bars: null, off: false } // prettier-ignore
  piece.editLane('thud', 'as it was', (lane) => ({ ...lane, movements: [before as never] }))
  const tick = vi.spyOn(usePlaying(), 'keyTick').mockReturnValue(450)
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 50 }), 'drag')
  late(440, 700)
  const points = () => piece.lanes[0]!.movements!.map(({ control, points }) => [control, points])
  expect(points()).toEqual([
    ['busy', [[100, 5], [500, 9]]],
    ['velocity', [[0, 100], [710, 50]]],
  ]) // prettier-ignore
  // Also in a later movement of the hand, and of the same control.
  tick.mockReturnValue(900)
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 60 }), 'another')
  late(800, 1000)
  expect(points()[1]).toEqual(['velocity', [[0, 100], [710, 50], [1100, 60]]]) // prettier-ignore
})

it('leaves those alone that were written down before', () => {
  const { piece, moves, late, written } = recording()
  const old = { ...held, start: 900, end: 1000 }
  piece.editPattern('as it was', (pattern) => ({ ...pattern, moved_detours: [old] }))
  moves.recordDetour(held)
  late(400, 700)
  expect(written()).toEqual([old, { ...held, end: 800 }])
})

it('shows what a hand left until the engine says what becomes of it, which is no moment of its own', async () => {
  const { piece } = recording()
  await nextTick()
  vi.spyOn(usePlaying(), 'keyTick').mockReturnValue(900)
  const before = { control: 'velocity', points: [[0, 5]], loop_bars: 1, off: false } as never
  piece.editLane('thud', 'as it was', (lane) => ({ ...lane, velocity: 100, movements: [before] }))
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 50 }), 'drag')
  const points = () => piece.lanes[0]!.movements![0]!.points
  expect(points()).toEqual([[0, 5], [900, 50]]) // prettier-ignore
  await settle()
  const [asked] = server.to('/api/render/moves')
  const hand = { lane: 'thud', control: 'velocity', was: 100, now: 50, points: [[900, 50]], movement: before }
  expect(asked!.body.hands).toEqual([hand])
  const moments = piece.history.moments.length
  await asked!.answer({ movements: [{ ...(before as object), points: [[0, 5], [100, 50]] }] }) // prettier-ignore
  expect([points(), piece.history.moments.length]).toEqual([[[0, 5], [100, 50]], moments]) // prettier-ignore
})

it('tells the engine of earlier points where they count since an answer came late', async () => {
  const { piece, late } = recording()
  await nextTick()
  const tick = vi.spyOn(usePlaying(), 'keyTick').mockReturnValue(450)
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 50 }), 'one')
  tick.mockReturnValue(500)
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 60 }), 'another')
  late(440, 700)
  await settle()
  const [hand] = server.to('/api/render/moves').at(-1)!.body.hands
  expect([hand.movement.points, hand.points]).toEqual([[[0, 100], [710, 50]], [[760, 60]]]) // prettier-ignore
  expect(piece.lanes[0]!.movements![0]!.points).toEqual([[0, 100], [710, 50], [760, 60]]) // prettier-ignore
})

it('keeps an answer that comes when the next movement of the hand has begun, and leaves what was before the first alone', async () => {
  const { piece, moves } = recording()
  moves.isOn = false
  await nextTick()
  const row = (value: number) => ({ control: 'velocity', points: [[0, value]], loop_bars: null, off: false })
  piece.editLane('thud', 'as it was', (lane) => ({ ...lane, velocity: 100, movements: [row(5) as never] }))
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 90 }), 'one')
  piece.editLane('thud', 'pan', (lane) => ({ ...lane, pan: 1 }), 'two')
  await settle()
  await server.to('/api/render/moves')[0]!.answer({ movements: [row(1)] })
  piece.editLane('thud', 'pan', (lane) => ({ ...lane, pan: 2 }), 'two')
  expect([piece.lanes[0]!.movements, piece.lanes[0]!.pan]).toEqual([[row(1)], 2])
  const rows = piece.history.moments.map(({ document }) => document?.patterns[0]!.lanes[0]!.movements)
  expect(rows.slice(-3)).toEqual([[row(5)], [row(1)], [row(1)]])
})

it('waits where the server is away, and asks again when it is back', async () => {
  const { piece } = recording()
  await nextTick()
  vi.spyOn(usePlaying(), 'keyTick').mockReturnValue(900)
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 50 }), 'drag')
  await settle()
  await server.to('/api/render/moves')[0]!.refuse(503)
  expect(useNotices().shown).toEqual([])
  expect(piece.lanes[0]!.movements![0]!.points).toEqual([[0, 100], [900, 50]]) // prettier-ignore
  useReach().isAway = true
  await nextTick()
  useReach().isAway = false
  await settle()
  expect(server.to('/api/render/moves').length).toBe(2)
})

it('asks what becomes of a movement whose control is moved while nothing records, and leaves a newer one alone', async () => {
  const { piece, moves } = recording()
  moves.isOn = false
  await nextTick()
  const row = (value: number) => ({ control: 'velocity', points: [[0, value]], loop_bars: null, off: false })
  piece.editLane('thud', 'as it was', (lane) => ({ ...lane, velocity: 100, movements: [row(5) as never] }))
  piece.editLane('thud', 'velocity', (lane) => ({ ...lane, velocity: 90 }), 'drag')
  await settle()
  const [asked] = server.to('/api/render/moves')
  expect(asked!.body.hands).toMatchObject([{ was: 100, now: 90, points: [] }])
  piece.editLane('thud', 'another', (lane) => ({ ...lane, movements: [row(77) as never] }))
  await asked!.answer({ movements: [row(1)] })
  expect(piece.lanes[0]!.movements).toEqual([row(77)])
})

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import type { Lane } from '@/api/client'
import { aLane, aPiece } from '@/testing'
import { aServer, settle, signInAfresh } from '@/testingServer'
import { useOutbox } from './outbox'
import { useSession } from './session'
import { written } from './waiting'
import { usePiece } from './piece'
import { useTrail } from './trail'

const opened = (id: number, velocity = 100) => ({
  id,
  revision: 1,
  stands_at: 1,
  changed_at: '',
  document: { ...aPiece(aLane('thud', { velocity }), aLane('bell')), name: `Piece ${id}` },
})
const lines = [{ number: 1, label: 'New piece', at: '' }]
let server: ReturnType<typeof aServer>

beforeEach(async () => {
  await signInAfresh()
  server = aServer()
})
afterEach(() => vi.unstubAllGlobals())

/** A piece that is open. */
async function open(id = 1) {
  const piece = usePiece()
  const opening = piece.open(id)
  await settle()
  await server.of(`/api/pieces/${id}`).at(-1)!.answer(opened(id))
  await server.of(`/api/pieces/${id}/moments`).at(-1)!.answer(lines)
  await opening
  return piece
}
const velocityOf = (piece: ReturnType<typeof usePiece>) => piece.lanes[0]!.velocity
const to = (velocity: number) => (lane: Lane) => ({ ...lane, velocity })

describe('a piece', () => {
  it('that is answered after another was opened is not shown', async () => {
    const piece = usePiece()
    void piece.open(1)
    await settle()
    const second = piece.open(2)
    await settle()
    await server.of('/api/pieces/2')[0]!.answer(opened(2))
    await server.of('/api/pieces/2/moments')[0]!.answer(lines)
    await second
    await server.of('/api/pieces/1')[0]!.answer(opened(1))
    await server.of('/api/pieces/1/moments')[0]!.answer(lines)
    expect([piece.id, piece.document?.name]).toEqual([2, 'Piece 2'])
  })

  it('waits for what an earlier page left, though the server is quicker', async () => {
    const first = await open()
    first.editLane('thud', 'thud: velocity', to(70))
    void first.saveNow()
    await settle()
    await server.asked.at(-1)!.refuse(503)
    await written()
    setActivePinia(createPinia()) // another page
    useSession().user = 'mara'
    const waited = useOutbox().begin('mara')
    const piece = await open()
    expect([velocityOf(piece), piece.isSaved()]).toEqual([70, false])
    await waited
  })

  it('opens with what was done to it and has not reached the server', async () => {
    const piece = await open()
    piece.editLane('thud', 'thud: velocity', to(70))
    void piece.saveNow()
    await settle()
    await server.asked.at(-1)!.refuse(503)
    piece.close()
    expect(useOutbox().count).toBe(1)
    await open()
    expect(velocityOf(piece)).toBe(70)
    expect(piece.isSaved()).toBe(false)
  })
})

describe('a moment', () => {
  it('is none where nothing changes', async () => {
    const piece = await open()
    piece.editLane('thud', 'thud: velocity', to(100))
    piece.editLanes('to place 0', (lanes) => lanes)
    piece.silence('thud', { mute: false })
    expect(piece.history.moments.length).toBe(1)
    expect(piece.isSaved()).toBe(true)
  })

  it('is one for all steps of a gesture, each from where that began', async () => {
    const piece = await open()
    for (const by of [1, 2, 3])
      piece.editLane('thud', `up ${by}`, (lane) => ({ ...lane, velocity: lane.velocity + by }), 'drag')
    piece.editLane('thud', 'then', to(9), 'another')
    expect(piece.history.moments.map(({ label }) => label)).toEqual(['New piece', 'up 3', 'then'])
    expect(await useTrail().undo()).toBe('then')
    expect(velocityOf(piece)).toBe(103)
  })

  it('that the engine answers is laid on what a hand did meanwhile, asked again where both did the same, and is none of another piece', async () => {
    const piece = await open()
    const answers: (() => void)[] = []
    const faster = async (before: NonNullable<typeof piece.document>) => {
      await new Promise<void>((resolve) => answers.push(resolve))
      return { ...before, tempo: before.tempo + 30 }
    }
    const done = piece.editAsAnswered('faster', faster)
    piece.editLane('thud', 'thud: velocity', to(70))
    answers[0]!()
    expect(await done).toBe(true)
    expect([piece.document?.tempo, velocityOf(piece)]).toEqual([150, 70])
    expect(piece.history.moments.map(({ label }) => label)).toEqual(['New piece', 'thud: velocity', 'faster'])

    const again = piece.editAsAnswered('faster still', faster)
    piece.edit('slower', (document) => ({ ...document, tempo: 60 }))
    answers[1]!()
    await settle()
    expect(piece.document?.tempo).toBe(60)
    answers[2]!()
    expect([await again, piece.document?.tempo]).toEqual([true, 90])

    const late = piece.editAsAnswered('too late', faster)
    piece.close()
    answers[3]!()
    expect(await late).toBe(false)
  })

  it('that is taken back has never been', async () => {
    const piece = await open()
    piece.editLane('thud', 'up', to(101), 'drag')
    piece.takeBack('another')
    expect(velocityOf(piece)).toBe(101)
    piece.takeBack('drag')
    expect([velocityOf(piece), piece.history.moments.length]).toEqual([100, 1])
    expect(await useTrail().redo()).toBe(null)
  })

  it('is not undone in part: mute stays, and undo and redo come one after the other', async () => {
    const piece = await open()
    piece.editLane('thud', 'to 90', to(90))
    piece.editLane('thud', 'to 80', to(80))
    piece.silence('bell', { mute: true })
    expect(await Promise.all([useTrail().undo(), useTrail().undo(), useTrail().redo()])).toEqual([
      'to 80',
      'to 90',
      'to 90',
    ])
    expect([velocityOf(piece), piece.lanes[1]!.mute]).toEqual([90, true])
  })

  it('from before this page is fetched, and is of no use once something else is open', async () => {
    const piece = await open()
    const old = { number: 0, label: 'older', at: '', gesture: null, document: null } as never
    const going = useTrail().goTo(old)
    await settle()
    await open(2)
    await server.of('/api/pieces/1/moments/0')[0]!.answer({ document: opened(1, 5).document })
    expect(await going).toBe(false)
    expect([piece.id, velocityOf(piece)]).toEqual([2, 100])
  })
})

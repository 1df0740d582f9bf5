import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'

import type { Bench, Lane, Word } from '@/api/client'
import { useTrail } from '@/work/trail'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { aLane, aPicture, takePiece } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { useLaneEdits } from './useLaneEdits'

const velocity = (fields: Partial<Word> = {}): Word => ({
  kind: 'number', text: '', name: 'velocity', field: 'velocity', value: 100, stored: 100, low: 1, high: 127,
  counted_from: 0, negated: false, decimals: 0, digits: '', last_digits: '', strip: '', own: 0, ...fields,
}) // prettier-ignore
const benchOf = (id: string, ...words: Word[]) => ({ id, fields: [{ words }], rates: [], rate: 0 }) as unknown as Bench // prettier-ignore

let chosen: string[]
let benches: Map<string, Bench>
let server: ReturnType<typeof aServer>

beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer()
  chosen = ['thud', 'bell']
  benches = new Map(['thud', 'bell', 'hiss'].map((id) => [id, benchOf(id, velocity())]))
})
afterEach(() => vi.unstubAllGlobals())

function setUp(...lanes: Lane[]) {
  const piece = takePiece(...lanes)
  const edits = useLaneEdits({
    meant: (lane) =>
      chosen.includes(lane.id) ? piece.lanes.filter(({ id }) => chosen.includes(id)) : [lane],
    picture: () => aPicture({ steps: 16, draws: [0, 1, 2, 3] }),
    bench: (id) => benches.get(id),
  })
  return { piece, edits }
}
const three = () =>
  setUp(aLane('thud', { velocity: 90 }), aLane('bell', { velocity: 120 }), aLane('hiss', { velocity: 50 }))
const velocities = () => usePiece().lanes.map((lane) => lane.velocity)
const labels = () => usePiece().history.moments.map(({ label }) => label)

describe('a number', () => {
  it('moves all lanes that are meant by as much, each within its limits, as one moment', () => {
    const { piece, edits } = three()
    const lane = piece.lanes[0]!
    for (const value of [95, 99, 100]) void edits.move(lane, velocity(), value, 'drag')
    expect(velocities()).toEqual([100, 127, 50])
    expect(labels()).toEqual(['New piece', '2 lanes: velocity 90 → 100'])
  })

  it('that is typed is the same for all that are meant', () => {
    const { piece, edits } = three()
    void edits.move(piece.lanes[0]!, velocity(), 70, 'typed', true)
    expect(velocities()).toEqual([70, 70, 50])
  })

  it('moves a lane that is not chosen alone', () => {
    const { piece, edits } = three()
    void edits.move(piece.lanes[2]!, velocity(), 51, 'drag')
    expect(velocities()).toEqual([90, 120, 51])
  })

  it('says which steps keep their own, and offers to set all', async () => {
    const own = velocity({ own: 3, strip: 'velocity' })
    benches.set('bell', benchOf('bell', own))
    const { piece, edits } = three()
    void edits.move(piece.lanes[0]!, velocity(), 70, 'typed', true)
    const [notice] = useNotices().shown
    expect(notice!.text).toBe('bell: 3 steps have a velocity of their own and keep it.')
    void useNotices().take(notice!.key, notice!.actions[0]!)
    await settle()
    const [asked] = server.to('/api/render/strip')
    expect([asked!.body.lanes, asked!.body.strip, asked!.body.action]).toEqual([
      ['bell'],
      'velocity',
      'empty',
    ])
    await asked!.answer({ patches: { bell: { velocity_strip: null, velocity: 1 } } })
    expect(velocities()).toEqual([70, 1, 50])
    expect(labels().at(-1)).toBe('bell: velocity of all steps')
  })
})

describe('a lane', () => {
  it('goes to another place, and is no moment where it cannot', () => {
    const { piece, edits } = three()
    edits.shift(piece.lanes[0]!, -1)
    expect(labels().length).toBe(1)
    edits.shift(piece.lanes[0]!, 1)
    expect(piece.lanes.map(({ id }) => id)).toEqual(['bell', 'thud', 'hiss'])
    expect(labels().at(-1)).toBe('thud: to place 2')
  })

  it('is copied below itself with an id of its own', () => {
    const { piece, edits } = three()
    const id = edits.copy(piece.lanes[1]!)
    expect(piece.lanes.map(({ name }) => name)).toEqual(['thud', 'bell', 'bell copy', 'hiss'])
    expect(piece.lanes[2]!.id).toBe(id)
    expect(new Set(piece.lanes.map((lane) => lane.id)).size).toBe(4)
  })

  it('that others read is removed and they go on as they stood, which one undoing takes back', async () => {
    const { piece, edits } = setUp(
      aLane('thud'),
      aLane('echo', { source: { kind: 'echo', of: 'thud', shift: 3 } }),
    )
    chosen = ['thud']
    const removing = edits.remove(piece.lanes[0]!)
    await settle()
    const drawn = { kind: 'drawn', steps: 16, hits: [3] }
    await server
      .to('/api/render')[0]!
      .answer({ benches: [{ id: 'echo', without: { thud: { source: drawn } } }] })
    await removing
    expect(piece.lanes.map(({ id, source }) => [id, source.kind])).toEqual([['echo', 'drawn']])
    expect(useNotices().shown[0]!.text).toBe('thud removed. echo followed, and goes on as it stood.')
    await useTrail().undo()
    expect(piece.lanes.map(({ source }) => source.kind)).toEqual(['euclidean', 'echo'])
  })

  it('stays where the engine refuses, in words', async () => {
    const { piece, edits } = three()
    const removing = edits.remove(piece.lanes[2]!)
    await settle()
    await server.to('/api/render')[0]!.refuse(422, 'lane “echo”: no')
    await removing
    expect(piece.lanes.length).toBe(3)
    expect(useNotices().shown.map(({ text, isError }) => [text, isError])).toEqual([
      ['lane “echo”: no', true],
    ])
  })
})

describe('an alternative', () => {
  it('is chosen for every lane that offers it, and for no other', async () => {
    const { piece, edits } = three()
    const backward = { key: 'backward', text: 'backward', patch: { direction: 'backward' } } as never
    const choosing = edits.choose(piece.lanes[0]!, 'direction', 'direction', backward)
    await settle()
    const [asked] = server.to('/api/render/alternatives')
    expect(asked!.body.lane).toBe('bell')
    await asked!.answer([])
    await choosing
    expect(piece.lanes.map(({ direction }) => direction)).toEqual(['backward', 'forward', 'forward'])
  })
})

describe('steps and strips', () => {
  it('are drawn where the lane is drawn, and turned by hand where it is computed', () => {
    const { piece, edits } = setUp(
      aLane('thud', { source: { kind: 'drawn', steps: 4, hits: [0] } }),
      aLane('bell'),
    )
    edits.setSteps(piece.lanes[0]!, aPicture({ draws: [0, 1, 2, 3] }), [1, 2], true)
    edits.setSteps(piece.lanes[1]!, aPicture({ draws: [] }), [1], true)
    expect(piece.lanes[0]!.source).toMatchObject({ hits: [0, 1, 2] })
    expect(piece.lanes[1]!.edits).toEqual([{ step: 1, hit: true }])
    expect(labels().slice(1)).toEqual(['thud: 2 steps hit', 'bell: step 2 hit'])
  })

  it('take a throw of the engine for all that are meant as one moment', async () => {
    const { piece, edits } = three()
    const throwing = edits.throwLane(piece.lanes[0]!, 30)
    await settle()
    const source = { kind: 'thrown', hits: 4, steps: 16, throw: 9, was: null }
    await server.to('/api/render/throw')[0]!.answer({ sources: { thud: source, bell: source, hiss: source } })
    await throwing
    expect(piece.lanes.map((lane) => lane.source.kind)).toEqual(['thrown', 'thrown', 'euclidean'])
    expect(labels().at(-1)).toBe('2 lanes: thrown by 30 %')
  })
})

import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, ref } from 'vue'

import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'

import { useNotices } from '@/page/notices'
import { useTrail } from '@/work/trail'
import { usePlaying } from '@/playing/playing'
import { aLane, takePiece } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { useRecording } from './useRecording'

let server: ReturnType<typeof aServer>
beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer()
})
afterEach(() => vi.unstubAllGlobals())

function setUp() {
  const piece = takePiece(aLane('reed', { source: { kind: 'drawn', steps: 4, hits: [] } }))
  const place = ref(2)
  const cursor = { get: () => place.value, set: (step: number) => (place.value = step) }
  const scope = effectScope()
  const recording = scope.run(() => useRecording(() => piece.lanes[0]!, async () => piece.lanes[0]!, cursor, async () => 4))! // prettier-ignore
  return { piece, place, recording }
}
const entered = () => server.to('/api/melody/enter')
const hits = (...steps: number[]) => ({
  patches: { reed: { source: { kind: 'drawn', steps: 4, hits: steps } } },
})
const event = { timeStamp: 0 }

it('enters one step after the other, each on what the one before has made, and repeats', async () => {
  const { piece, place, recording } = setUp()
  recording.choose('steps')
  expect(place.value).toBe(0)
  for (const key of [60, 62]) recording.struck(key, 90, event)
  await settle()
  expect(entered().map(({ body }) => [body.step, body.pitch])).toEqual([[0, 60]])
  await entered()[0]!.answer(hits(0))
  expect(entered()[1]!.body).toMatchObject({ what: 'note', step: 1, pitch: 62, velocity: 90 })
  expect(entered()[1]!.body.score.lanes[0].source.hits).toEqual([0])
  await entered()[1]!.answer(hits(0, 1))
  void recording.enter('tie')
  void recording.enter('rest')
  await settle()
  await entered()[2]!.answer(hits(0, 1))
  await entered()[3]!.answer(hits(0, 1))
  expect(place.value).toBe(0)
  // What changes nothing is no moment: a tie and a rest here.
  expect(piece.history.moments.map(({ label }) => label)).toEqual([
    'New piece', 'reed: note on step 1', 'reed: note on step 2',
  ]) // prettier-ignore
})

it('takes the place back with what was entered there', async () => {
  const { place, recording } = setUp()
  recording.choose('steps')
  recording.struck(60, 90, event)
  await settle()
  await entered()[0]!.answer(hits(0))
  expect(place.value).toBe(1)
  await useTrail().undo()
  await settle()
  expect(place.value).toBe(0)
})

it('stays where it is when a note is refused, and says why', async () => {
  const { place, recording } = setUp()
  recording.choose('steps')
  recording.struck(60, 90, event)
  await settle()
  await entered()[0]!.refuse(422, 'lane “reed”: it takes no pitches')
  expect([place.value, useNotices().shown[0]!.text]).toEqual([0, 'lane “reed”: it takes no pitches'])
})

it('lays what is played along on the lane as it was, as one moment', async () => {
  const { piece, recording } = setUp()
  usePlaying().isPlaying = true
  recording.choose('loop')
  for (const key of [60, 62]) {
    recording.struck(key, 80, event)
    void recording.released(key, event)
    await settle()
  }
  const asked = server.to('/api/melody/record')
  expect(asked.map(({ body }) => body.keys.length)).toEqual([1, 2])
  expect(asked[1]!.body.score.lanes[0].source.hits).toEqual([])
  // The first answer is of no use once there is more to lay.
  await asked[0]!.answer(hits(0))
  await asked[1]!.answer({ ...hits(0, 2), left_out: 1 })
  expect(piece.lanes[0]!.source).toMatchObject({ hits: [0, 2] })
  expect(piece.history.moments.at(-1)!.label).toBe('reed: 2 notes played in')
  usePlaying().isPlaying = false
})

it('leaves what a hand changes while keys are played in, and plays on into what it drew', async () => {
  const { piece, recording } = setUp()
  usePlaying().isPlaying = true
  recording.choose('loop')
  const press = async (key: number) => {
    recording.struck(key, 80, event)
    void recording.released(key, event)
    await settle()
  }
  await press(60)
  piece.editLane('reed', 'softer', (lane) => ({ ...lane, velocity: 70 }))
  const asked = () => server.to('/api/melody/record')
  await asked()[0]!.answer({ ...hits(0), left_out: 0 })
  expect(piece.lanes[0]).toMatchObject({ velocity: 70, source: { hits: [0] } })
  // Steps that are drawn by hand while the answer is on its way: the new key alone is laid on them.
  await press(62)
  piece.editLane('reed', 'drawn', (lane) => ({ ...lane, source: { kind: 'drawn', steps: 4, hits: [0, 3] } }))
  await asked()[1]!.answer({ ...hits(0, 2), left_out: 0 })
  expect(asked()[2]!.body.keys.map(({ key }: { key: number }) => key)).toEqual([62])
  expect(asked()[2]!.body.score.lanes[0].source.hits).toEqual([0, 3])
  await asked()[2]!.answer({ ...hits(0, 2, 3), left_out: 0 })
  expect(piece.lanes[0]).toMatchObject({ velocity: 70, source: { hits: [0, 2, 3] } })
  expect(piece.history.moments.at(-1)!.label).toBe('reed: 2 notes played in')
  usePlaying().isPlaying = false
})

import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'

import 'fake-indexeddb/auto'
import { useNotices } from '@/page/notices'
import { useOutbox } from '@/work/outbox'
import { aServer, settle, signInAfresh } from '@/testingServer'
import { useClip } from './useClip'

let server: ReturnType<typeof aServer>
beforeEach(async () => {
  await signInAfresh()
  server = aServer()
})
afterEach(() => vi.unstubAllGlobals())

const NOTES = [0, 1, 2, 3].map((start) => [start, 1, 36, 100, 0])
const clipAt = (revision: number, name = 'Last crossing', notes = NOTES) => ({
  id: 1, revision, undo: revision > 1 ? 'moved' : '', redo: '', document: { name, tracks: [{ notes }] },
}) // prettier-ignore
const DELETE = { kind: 'delete' } as const

async function open() {
  const scope = effectScope()
  const clip = scope.run(() => useClip(() => 1))!
  void clip.load()
  await settle()
  await server.of('/api/clips/1')[0]!.answer(clipAt(1))
  return { ...clip, scope }
}

it('does one edit after the other, each on the revision before', async () => {
  const { act, clip, chosen } = await open()
  chosen.value = [[0]]
  void act(DELETE)
  void act(DELETE)
  await settle()
  expect(edits().map(({ body }) => body.revision)).toEqual([1])
  await edits()[0]!.answer({ clip: clipAt(2), chosen: [[3]], came_from: [1, 2, 3, 0], lost: 0 })
  expect(edits().map(({ body }) => [body.revision, body.chosen])).toEqual([[1, [[0]]], [2, [[3]]]]) // prettier-ignore
  await edits()[1]!.answer({ clip: clipAt(3), chosen: [[]], came_from: null, lost: 0 })
  expect([clip.value!.revision, chosen.value]).toEqual([3, [[]]])
})

it('keeps an edit that the server did not get, and does it when it is back', async () => {
  const { act, clip } = await open()
  void act(DELETE)
  await settle()
  await server.to('/api/clips/1/edits')[0]!.refuse(503)
  expect(useOutbox().count).toBe(1)
  expect(useNotices().shown[0]!.text).toMatch(/^Not stored yet/)
  void useOutbox().send()
  await settle()
  await server.to('/api/clips/1/edits')[1]!.answer({ clip: clipAt(2), chosen: [], came_from: null, lost: 0 })
  expect([clip.value!.revision, useOutbox().count]).toEqual([2, 0])
})

it('says why an edit is refused, and is read anew where somebody else was first', async () => {
  const { act, clip } = await open()
  void act(DELETE)
  await settle()
  await server.to('/api/clips/1/edits')[0]!.refuse(409, 'it was changed elsewhere')
  await server.of('/api/clips/1')[1]!.answer(clipAt(7))
  expect(useNotices().shown[0]!.text).toBe('it was changed elsewhere')
  expect(clip.value!.revision).toBe(7)
})

it('undoes nothing where there is nothing, and shows no answer once it is left', async () => {
  const { undo, act, clip, scope } = await open()
  await undo()
  expect(server.to('/api/clips/1/undo')).toEqual([])
  void act(DELETE)
  await settle()
  scope.stop()
  await server.to('/api/clips/1/edits')[0]!.answer({ clip: clipAt(2), chosen: [], came_from: null, lost: 0 })
  expect(clip.value!.revision).toBe(1)
})

const MOVE = { kind: 'move', steps: 1 } as const
const edits = () => server.to('/api/clips/1/edits')
const asked = () => edits().map(({ body }) => [body.revision, body.action.kind, body.chosen])

it('does to the notes that were chosen when it was pressed, wherever an edit before it put them', async () => {
  const { act, chosen } = await open()
  chosen.value = [[0]]
  void act(MOVE)
  await settle()
  chosen.value = [[2]]
  void act(DELETE)
  chosen.value = [[1, 3]]
  await edits()[0]!.answer({ clip: clipAt(2), chosen: [[3]], came_from: [1, 2, 3, 0], lost: 0 })
  expect(asked()).toEqual([[1, 'move', [[0]]], [2, 'delete', [[1]]]]) // prettier-ignore
  expect(chosen.value).toEqual([[0, 2]])
  const left = clipAt(3, 'Last crossing', NOTES.slice(1))
  await edits()[1]!.answer({ clip: left, chosen: [[]], came_from: [0, 2, 3], lost: 0 })
  expect(chosen.value).toEqual([[0, 1]])
})

it('does nothing to others where the notes that it was about are gone', async () => {
  const { act, chosen } = await open()
  chosen.value = [[0]]
  void act(DELETE)
  void act(MOVE)
  await settle()
  await edits()[0]!.answer({
    clip: clipAt(2, '', NOTES.slice(1)),
    chosen: [[]],
    came_from: [1, 2, 3],
    lost: 0,
  })
  await settle()
  expect(asked()).toEqual([[1, 'delete', [[0]]]])
  expect(useNotices().shown).toEqual([])
})

it('says so where nobody can say which notes an edit was about', async () => {
  const { act, undo, chosen } = await open()
  void act(MOVE)
  await settle()
  await edits()[0]!.answer({ clip: clipAt(2), chosen: [[]], came_from: null, lost: 0 })
  void undo()
  await settle()
  chosen.value = [[1]]
  void act(DELETE)
  chosen.value = []
  void act(MOVE)
  await server.to('/api/clips/1/undo')[0]!.answer(clipAt(3))
  await settle()
  expect(useNotices().shown[0]!.text).toMatch(/^The clip has changed meanwhile/)
  expect(asked()).toEqual([[1, 'move', []], [3, 'move', []]]) // prettier-ignore
})

it('says how many notes an edit has merged or cropped, and nothing of those that were deleted', async () => {
  const { act } = await open()
  const edits = () => server.to('/api/clips/1/edits')
  for (const [at, action, lost] of [
    [0, { kind: 'pace', pace: 'double' }, 2],
    [1, { kind: 'delete' }, 1],
    [2, { kind: 'crop' }, 1],
  ] as const) {
    void act(action)
    await settle()
    await edits()[at]!.answer({ clip: clipAt(at + 2), chosen: [[]], came_from: [0, 1, 2], lost })
  }
  expect(useNotices().shown.map(({ text }) => text)).toEqual([
    '2 notes met others of the same pitch and were merged with them.',
    'One note lay outside and is gone.',
  ])
})

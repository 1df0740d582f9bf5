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

const clipAt = (revision: number, name = 'Last crossing') => ({
  id: 1, revision, undo: revision > 1 ? 'moved' : '', redo: '', document: { name, tracks: [] },
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
  const edits = () => server.to('/api/clips/1/edits')
  expect(edits().map(({ body }) => body.revision)).toEqual([1])
  await edits()[0]!.answer({ clip: clipAt(2), chosen: [[3]] })
  expect(edits().map(({ body }) => [body.revision, body.chosen])).toEqual([[1, [[0]]], [2, [[3]]]]) // prettier-ignore
  await edits()[1]!.answer({ clip: clipAt(3), chosen: [[]] })
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
  await server.to('/api/clips/1/edits')[1]!.answer({ clip: clipAt(2), chosen: [] })
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
  await server.to('/api/clips/1/edits')[0]!.answer({ clip: clipAt(2), chosen: [] })
  expect(clip.value!.revision).toBe(1)
})

import 'fake-indexeddb/auto'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { aServer, settle, signInAfresh } from '@/testingServer'
import { aLane, aPiece } from '@/testing'
import { forgetLast, lastOf } from './last'
import { usePiece } from './piece'
import { useSession } from './session'

let server: ReturnType<typeof aServer>
beforeEach(async () => {
  await forgetLast()
  await signInAfresh()
  server = aServer()
})
afterEach(() => vi.unstubAllGlobals())

const opened = {
  id: 1,
  revision: 4,
  attempt: '',
  stands_at: 1,
  changed_at: '',
  document: aPiece(aLane('thud')),
}

it('is who was signed in, where the server is away; nobody where they have signed out', async () => {
  const session = useSession()
  const reading = session.read()
  await settle()
  await server
    .of('/api/session')[0]!
    .answer({ user: 'mara', demo: true, taken_back: false, may_invite: false })
  await reading
  await signInAfresh()
  const again = useSession()
  again.user = undefined
  const away = again.read()
  await settle()
  await server.of('/api/session')[1]!.refuse(503)
  await away
  expect(again.user).toBe('mara')
  const out = again.signOut()
  await settle()
  await server.to('/api/session', 'DELETE')[0]!.answer({ user: null, demo: true, taken_back: false })
  await out
  const nobody = expect(again.read()).rejects.toThrow()
  await settle()
  await server.of('/api/session')[2]!.refuse(503)
  await nobody
})

it('is the piece as it stands here, with its history; no other piece', async () => {
  const piece = usePiece()
  const opening = piece.open(1)
  await settle()
  await server.of('/api/pieces/1')[0]!.answer(opened)
  await server
    .of('/api/pieces/1/moments')[0]!
    .answer([{ number: 1, label: 'New piece', at: '', heard: false, name: '' }])
  await opening
  piece.editLane('thud', 'thud: velocity', (lane) => ({ ...lane, velocity: 70 }))
  await piece.keepHere()
  expect(await lastOf('piece')).toMatchObject({ opened: { id: 1, revision: 4 } })
  piece.close()
  const away = piece.open(1)
  await settle()
  await server.of('/api/pieces/1')[1]!.refuse(503)
  await server.of('/api/pieces/1/moments')[1]!.refuse(503)
  await away
  expect([piece.lanes[0]!.velocity, piece.history.moments.map(({ label }) => label)]).toEqual([
    70, ['New piece', 'thud: velocity'],
  ]) // prettier-ignore
  const other = expect(piece.open(2)).rejects.toThrow()
  await settle()
  await server.of('/api/pieces/2')[0]!.refuse(503)
  await server.of('/api/pieces/2/moments')[0]!.refuse(503)
  await other
})

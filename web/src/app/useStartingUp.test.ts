import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'

import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { useNotices } from '@/page/notices'
import { aLane, takePiece } from '@/testing'
import { aServer, settle, signInAfresh } from '@/testingServer'
import { useSession } from '@/work/session'
import { written } from '@/work/waiting'
import { useStartingUp } from './useStartingUp'

let server: ReturnType<typeof aServer>
let scope: EffectScope

beforeEach(async () => {
  await signInAfresh() // nothing waits from before
  server = aServer()
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
})

/** Another page. */
async function startUp() {
  setActivePinia(createPinia())
  scope = effectScope()
  scope.run(useStartingUp)
  await settle()
}
const mara = { user: 'mara', demo: false, taken_back: false }

it('asks who is here, and then what their controllers move', async () => {
  await startUp()
  expect(server.asked.map(({ path }) => path)).toEqual(['/api/session'])
  await server.of('/api/session')[0]!.answer(mara)
  expect(useSession().user).toBe('mara')
  expect(server.of('/api/ports/controllers').length).toBe(1)
})

it('where that cannot be known says so, and tries again when it is told to', async () => {
  await startUp()
  await server.of('/api/session')[0]!.refuse(500, 'no')
  expect(useSession().user).toBe(undefined)
  const [notice] = useNotices().shown
  void useNotices().take(notice!.key, notice!.actions[0]!)
  await settle()
  await server.of('/api/session')[1]!.answer({ ...mara, user: null })
  expect([useSession().user, server.of('/api/ports/controllers').length]).toEqual([null, 0])
})

it('sends what waited when the page was left', async () => {
  const piece = takePiece(aLane('thud'))
  piece.editLane('thud', 'thud: velocity', (lane) => ({ ...lane, velocity: 70 }))
  void piece.saveNow()
  await settle()
  await server.to('/api/pieces/1', 'PUT')[0]!.refuse(503)
  await written()
  await startUp()
  await server.of('/api/session')[0]!.answer(mara)
  await settle()
  const puts = server.to('/api/pieces/1', 'PUT')
  expect([puts.length, puts.at(-1)!.body.moments.map(({ label }: { label: string }) => label)]).toEqual([
    2, ['thud: velocity'],
  ]) // prettier-ignore
})

it('says that an account is back which was to be deleted', async () => {
  await startUp()
  await server.of('/api/session')[0]!.answer({ ...mara, taken_back: true })
  expect(useNotices().shown[0]!.text).toBe('Your account is back, with all that is yours.')
})

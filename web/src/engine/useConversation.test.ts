import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'

import { aScore } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { useConversation } from './useConversation'

const SOUNDS = { first_tick: 0, end_tick: 1, lanes: [] }
let server: ReturnType<typeof aServer>
beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer({
    'POST /api/render': (asked) => ({
      marks: {},
      sounds: (asked as { sounds?: object }).sounds ? SOUNDS : null,
    }),
    'POST /api/render/sounds': () => SOUNDS,
  })
})
afterEach(() => vi.unstubAllGlobals())

const window = { first_bar: 0, bars: 2 }
const ahead = { first_bar: 4, bars: 3 }

test('what is drawn and what is heard of one score are one question', async () => {
  const { sounds, picture } = useConversation()
  const score = aScore()
  const heard = sounds({ score, dice: 1, window: ahead })
  void picture({ score, dice: 1, window, chosen: [], known: {} })
  expect(await heard).toEqual(SOUNDS)
  expect(server.to('/api/render')).toMatchObject([{ body: { window, sounds: ahead } }])
  expect(server.to('/api/render/sounds')).toEqual([])
})

test('in whichever order they are asked', async () => {
  const { sounds, picture } = useConversation()
  const score = aScore()
  void picture({ score, dice: 1, window, chosen: [], known: {} })
  await sounds({ score, dice: 1, window: ahead })
  expect(server.to('/api/render/sounds')).toEqual([])
})

test('what is heard alone, or of another score, or later, is asked alone', async () => {
  const { sounds, picture } = useConversation()
  await sounds({ score: aScore(), dice: 1, window: ahead })
  const score = aScore()
  void picture({ score, dice: 1, window, chosen: [], known: {} })
  await sounds({ score, dice: 2, window: ahead })
  await settle()
  await sounds({ score, dice: 1, window: ahead })
  expect(server.to('/api/render/sounds').length).toBe(3)
})

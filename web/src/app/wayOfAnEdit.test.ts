/** The way of one edit, stop by stop: from the hand to what is seen, heard and stored. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { computed, effectScope, type EffectScope } from 'vue'

import 'fake-indexeddb/auto'
import type { Bench, Word } from '@/api/client'
import { useRendering } from '@/engine/useRendering'
import { useChosenLanes } from '@/hands/useChosenLanes'
import { provideHands, type Hands } from '@/hands/useHands'
import { usePlaying } from '@/playing/playing'
import { useTransport } from '@/playing/transport'
import { aLane, RecordingPort, standIn, standInNews, takePiece } from '@/testing'
import { audio, run } from '@/testingAudio'
import { aServer, settle, signInAfresh } from '@/testingServer'
import { useOutbox } from '@/work/outbox'

vi.mock('@/sound/audio', () => import('@/testingAudio'))
vi.mock('vue', async (original) => ({
  ...(await original<typeof import('vue')>()),
  provide: () => undefined,
}))

type Question = Parameters<typeof standIn>[0] & { sounds: Question['window'] | null }
const word = { kind: 'number', name: 'length', field: 'length_percent', value: 100, stored: 100, low: 1, high: 400, counted_from: 0, strip: '', own: 0 } as unknown as Word // prettier-ignore
const bench = {
  id: 'thud',
  fields: [{ setting: 'length', words: [word] }],
  strips: [],
  rates: [],
  rate: 0,
} as unknown as Bench
let server: ReturnType<typeof aServer>
let scope: EffectScope

beforeEach(async () => {
  await signInAfresh()
  localStorage.clear()
  audio.port = new RecordingPort()
  server = aServer({
    'POST /api/render/sounds': (asked) => standIn(asked as Question),
    'POST /api/render': (asked) => {
      const { sounds, ...question } = asked as Question
      const heard = sounds && standIn({ ...question, window: sounds })
      const news = standInNews(question)
      const marks = { ...news.marks, 'bench thud': 'a', 'field thud length': 'a' }
      return { ...news, marks, benches: [bench], sounds: heard }
    },
    'PUT /api/pieces/1': () => ({ id: 1, revision: 2, changed_at: '' }),
  })
  scope = effectScope()
})
afterEach(() => {
  scope.stop()
  useTransport().stop()
  vi.unstubAllGlobals()
})

it('passes its nine stops', async () => {
  const piece = takePiece(aLane('thud', { source: { kind: 'drawn', steps: 4, hits: [] } }))
  const question = computed(() => piece.score && { score: piece.score, dice: 1, window: { first_bar: 0, bars: 1 } }) // prettier-ignore
  const { hands, rendering } = scope.run(() => {
    const { rendering } = useRendering(question)
    return {
      hands: provideHands(
        useChosenLanes(() => piece.lanes),
        rendering,
      ) as Hands,
      rendering,
    }
  })!
  await usePlaying().play()
  await run(0.5)
  const drawn = rendering.value
  const [asked, struck] = [server.asked.length, audio.port.given.length]

  // 1. A hand moves a word; 2. the lane's edit says what of which lanes; 3. the document is another, at once;
  // 4. the history has a moment of it.
  await hands.edits.move(piece.lanes[0]!, word, 50, 'drag')
  expect(piece.lanes[0]!.length_percent).toBe(50)
  expect(piece.history.moments.at(-1)).toMatchObject({ label: 'thud: length 100 → 50', gesture: 'drag' })
  // 5. It is on its way to the server before anything else has answered.
  expect(useOutbox().count).toBe(1)

  await settle()
  // 6. One question: what is to be drawn, and what is to be heard of the same score.
  const [question6, ...others] = server.asked
    .slice(asked)
    .filter(({ path }) => path.startsWith('/api/render'))
  expect([question6!.path, others]).toEqual(['/api/render', []])
  expect(question6!.body.score.lanes[0].length_percent).toBe(50)
  expect(question6!.body.sounds).not.toBe(null)
  // 7. What is drawn is the answer.
  expect(rendering.value).not.toBe(drawn)
  // 8. What was not committed yet is replaced: from the next note on it sounds as it is drawn.
  await run(0.5)
  const lengths = audio.port.given.slice(struck).map(({ note }) => note.end! - note.time)
  expect(lengths.map((seconds) => Math.round(seconds * 1000))).toEqual(lengths.map(() => 250))
  expect(lengths.length).toBeGreaterThan(0)
  expect(usePlaying().tape.stretches[0]!.score).toBe(piece.score)
  // 9. It is stored.
  void piece.saveNow()
  await settle()
  const [stored] = server.to('/api/pieces/1', 'PUT')
  expect(stored!.body.moments.map(({ label }: { label: string }) => label)).toEqual(['thud: length 100 → 50'])
  expect([piece.isSaved(), useOutbox().count]).toEqual([true, 0])
})

import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import 'fake-indexeddb/auto'
import { useNotices } from '@/page/notices'
import { aLane, aRow, RecordingPort, standIn, takePiece } from '@/testing'
import { audio, run } from '@/testingAudio'
import { aServer, settle, signInAfresh } from '@/testingServer'
import { useOrder } from './order'
import { usePlaying } from './playing'
import { useTransport } from './transport'

vi.mock('@/sound/audio', () => import('@/testingAudio'))

const BAR = 53760
const BAR_SECONDS = 2 // at 120
type Asked = Parameters<typeof standIn>[0]
let server: ReturnType<typeof aServer>

beforeEach(async () => {
  await signInAfresh()
  localStorage.clear() // the tape that an earlier test left
  audio.port = new RecordingPort()
  server = aServer({
    // A row lasts its repeats, of a bar each.
    'POST /api/render/sounds': (asked) => ({
      ...standIn(asked as Asked),
      ends: (asked as Asked).row ? (asked as Asked).row!.row.repeats * BAR : null,
    }),
    'POST /api/order/switch': (asked) => {
      const { coming, tick } = asked as { coming: Omit<Asked, 'window'>; tick: number }
      const sounds = standIn({ ...coming, window: { first_bar: 0, bars: 4 } })
      return { tick: Math.ceil(tick / BAR) * BAR, from_tick: 0, sounds: { ...sounds, ends: null } }
    },
  })
})
afterEach(() => {
  useTransport().stop()
  vi.unstubAllGlobals()
})

/** A piece of the patterns A and B, in the order A, B, A. */
function setUp() {
  const piece = takePiece(aLane('thud', { source: { kind: 'drawn', steps: 4, hits: [] } }))
  piece.edit('set up', (document) => ({
    ...document,
    patterns: [document.patterns[0]!, { ...document.patterns[0]!, id: 'b', name: 'B' }],
    order: [aRow(), aRow({ pattern: 'b' }), aRow({ repeats: 2 })],
  }))
  return { piece, order: useOrder(), playing: usePlaying(), notices: useNotices() }
}
const heard = () => usePlaying().tape.stretches.map(({ patternId, row }) => [patternId, row?.place ?? null])

it('plays row after row, the page with it, and says when it is over', async () => {
  const { piece, order, playing, notices } = setUp()
  await order.playFrom(0)
  await run(1.5 * BAR_SECONDS)
  expect([piece.pattern!.name, order.at, order.isPlaying]).toEqual(['B', 1, true])
  await run(3 * BAR_SECONDS)
  expect(heard()).toEqual([['a', 0], ['b', 1], ['a', 2]]) // prettier-ignore
  expect([playing.isPlaying, notices.shown.at(-1)!.text, piece.row]).toEqual([
    false,
    'End of the order.',
    null,
  ])
})

it('goes round in a stretch of rows', async () => {
  const { order } = setUp()
  order.loop = [0, 1]
  await order.playFrom(0)
  await run(3.5 * BAR_SECONDS)
  expect(heard()).toEqual([['a', 0], ['b', 1], ['a', 0], ['b', 1]]) // prettier-ignore
})

it('goes on from where the row that plays stands now, and from its place where it is gone', async () => {
  const { order } = setUp()
  await order.playFrom(1)
  await run(0.5)
  order.edit('a row before it', (rows) => [aRow(), ...rows])
  expect(order.at).toBe(2)
  order.edit('gone', (rows) => rows.filter((_, at) => at !== 2))
  await run(1.5 * BAR_SECONDS)
  expect([order.at, heard().at(-1)]).toEqual([2, ['a', 2]])
})

it('is left by a hand that chooses a pattern', async () => {
  const { piece, order, playing } = setUp()
  await order.playFrom(0)
  await run(0.3)
  piece.choosePattern('b')
  await run(1.5 * BAR_SECONDS)
  expect([playing.isPlaying, order.isPlaying, heard().at(-1)]).toEqual([true, false, ['b', null]])
})

it('writes down what hands switched, as the engine says it in rows', async () => {
  const { piece, order, playing, notices } = setUp()
  order.isWriting = true
  await playing.play()
  await run(0.5 * BAR_SECONDS)
  piece.choosePattern('b')
  await run(2 * BAR_SECONDS)
  playing.stop()
  await settle()
  const [asked] = server.to('/api/order/written')
  expect(asked!.body.heard.map(({ pattern }: { pattern: string }) => pattern)).toEqual(['a', 'b'])
  expect(asked!.body.heard[0].ticks).toBe(BAR)
  await asked!.answer({ rows: [aRow(), aRow({ pattern: 'b', repeats: 2 })] })
  expect([order.rows.length, notices.shown.at(-1)!.text]).toEqual([
    5, '2 rows are written down at the end of the order.',
  ]) // prettier-ignore
})

it('without rows says what to do', async () => {
  const { order, piece, notices } = setUp()
  piece.edit('none', (document) => ({ ...document, order: [] }))
  await order.playFrom(0)
  expect(notices.shown.at(-1)!.text).toBe('The order has no rows yet: add one first.')
})

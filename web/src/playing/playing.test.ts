import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import 'fake-indexeddb/auto'
import type { Loop } from '@/sound/loop'
import plain from '@/api/plain.json'
import { aLane, RecordingPort, standIn, takePiece } from '@/testing'
import { audio, run } from '@/testingAudio'
import { aServer, settle, signInAfresh } from '@/testingServer'
import { useNotices } from '@/page/notices'
import { useKeeping } from './keeping'
import { useLoops } from './loops'
import { useMutes } from './mutes'
import { usePlaying } from './playing'
import { useTransport } from './transport'

vi.mock('@/sound/audio', () => import('@/testingAudio'))

const BAR = 53760
const BAR_SECONDS = 2 // at 120
let server: ReturnType<typeof aServer>

beforeEach(async () => {
  await signInAfresh()
  audio.port = new RecordingPort()
  server = aServer({ 'POST /api/render/sounds': (asked) => standIn(asked as Parameters<typeof standIn>[0]) })
})
afterEach(() => {
  useTransport().stop()
  vi.unstubAllGlobals()
})

function setUp() {
  const four = (id: string) => aLane(id, { source: { kind: 'drawn', steps: 4, hits: [] } })
  return {
    piece: takePiece(four('thud'), four('bell')),
    playing: usePlaying(),
    keeping: useKeeping(),
    loops: useLoops(),
    notices: useNotices(),
  }
}
const aLoop = (): Loop => ({ lengthTicks: BAR, tempo: 120, tempoChanges: [], tracks: [] })

describe('keeping', () => {
  it('before anything sounded says so, and asks nothing', async () => {
    const { keeping, notices } = setUp()
    expect(await keeping.keep(4)).toBe(null)
    expect(notices.shown[0]!.text).toMatch(/^Nothing has sounded yet/)
    expect(server.to('/api/clips')).toEqual([])
  })

  it('sends the tape, with the score as it stood while it played', async () => {
    const { piece, playing, keeping } = setUp()
    await playing.play()
    await run(2.2 * BAR_SECONDS)
    playing.stop()
    piece.editLane('thud', 'moved', (lane) => ({ ...lane, velocity: 1 }))
    void keeping.keep(2)
    await settle()
    // What came before it is stored first.
    await server.to('/api/pieces/1', 'PUT')[0]!.answer({ id: 1, revision: 2, changed_at: '' })
    const { body } = server.to('/api/clips')[0]!
    expect([body.bars, body.piece, body.pattern]).toEqual([2, 'Night Ferry', 'A'])
    expect(body.score.lanes[0].velocity ?? plain.velocity).toBe(100)
    const starts: number[] = body.tape.tracks[0].notes.map(([start]: number[]) => start)
    expect(starts.filter((start) => start < 2 * BAR)).toEqual(
      Array.from({ length: 8 }, (_, at) => at * 13440),
    )
  })

  it('waits where the server cannot be reached, says that, and is told when it is there', async () => {
    const { playing, keeping, notices } = setUp()
    await playing.play()
    await run(1.2 * BAR_SECONDS)
    void keeping.keep(1)
    await settle()
    await server.to('/api/clips')[0]!.refuse(503)
    expect(notices.shown.at(-1)!.text).toMatch(/^Not kept yet/)
    void notices.take(notices.shown.at(-1)!.key, notices.shown.at(-1)!.actions[0]!)
    await settle()
    const again = server.to('/api/clips')[1]!
    expect(again.body.keeping).toBe(server.to('/api/clips')[0]!.body.keeping)
    await again.answer({ id: 7, name: 'Night Ferry A, bar 1', bars: 1, length_ticks: BAR })
    expect(notices.shown.at(-1)!.text).toMatch(/^Kept “Night Ferry A, bar 1”/)
  })
})

describe('hands while it plays', () => {
  it('mute and solo at once, without a moment of history, several before an answer', async () => {
    const { piece, playing } = setUp()
    await playing.play()
    await run(0.3)
    useMutes().mute('thud', true)
    useMutes().mute('bell', true)
    const until = audio.port.given.length
    await run(1.5)
    expect(audio.port.given.slice(until).filter(({ cutAt, note }) => cutAt > note.time)).toEqual([])
    expect(piece.history.moments.length).toBe(1)
    useMutes().solo('bell', true)
    expect(piece.lanes.map(({ mute, solo }) => [mute, solo])).toEqual([[true, false], [true, true]]) // prettier-ignore
  })

  it('one thing sounds at a time: a loop takes the pattern’s place, and Space ends either', async () => {
    const { playing, loops } = setUp()
    await playing.play()
    await run(0.2)
    await loops.play('clip 1', () => aLoop())
    expect([playing.isPlaying, loops.looping]).toEqual([false, 'clip 1'])
    await playing.play()
    expect([playing.isPlaying, loops.looping]).toEqual([true, ''])
    await useTransport().toggle()
    expect([playing.isPlaying, loops.looping]).toEqual([false, ''])
  })
})

describe('recording ahead', () => {
  it('keeps the bars once they are there, and as many as there were when it is stopped', async () => {
    const { keeping } = setUp()
    await keeping.recordAhead(1, false)
    await run(2.3 * BAR_SECONDS)
    await settle()
    const [kept] = server.to('/api/clips')
    expect(kept!.body.stretch.end_bar - kept!.body.stretch.first_bar).toBe(1)
    expect(keeping.ahead).toBe(null)
  })

  it('is left by the same hand', async () => {
    const { playing, keeping } = setUp()
    await keeping.recordAhead(8, false)
    await keeping.recordAhead(8, false)
    expect([keeping.ahead, playing.isPlaying]).toEqual([null, true])
  })
})

import { beforeEach, describe, expect, it } from 'vitest'

import { ApiError, type Score } from '@/api/client'
import { aLane, aRow, asking, aScore, RecordingPort, standIn } from '@/testing'
import { tapeOf } from './tape'
import { HORIZON, Player } from './player'

const SIXTEENTH = 3360
const settle = () => new Promise((resolve) => setTimeout(resolve))

/** A clock that is moved by hand, in steps as the ticker's, with time for answers between them. */
class SteppedClock {
  time = 10
  now = () => this.time
  async run(player: Player, seconds: number, step = 0.03) {
    const end = this.time + seconds
    while (this.time < end - 1e-9) {
      this.time = Math.min(end, this.time + step)
      player.tick()
      if (open.size) await settle()
    }
  }
}

let clock: SteppedClock
let port: RecordingPort
/** Questions that wait for their answers. */
let open: Set<unknown>
let player: Player
let score: Score

beforeEach(() => {
  clock = new SteppedClock()
  port = new RecordingPort()
  const waiting = (open = new Set())
  player = new Player(
    clock,
    port,
    asking(async (question) => {
      waiting.add(question)
      await settle()
      waiting.delete(question)
      return standIn(question)
    }),
  )
  score = aScore(
    aLane('thud', { source: { kind: 'drawn', steps: 4, hits: [] } }),
    aLane('chain', { source: { kind: 'drawn', steps: 3, hits: [] } }),
  )
})

const playing = (dice: number, of = score, patternId = 'a') => ({ score: of, dice, patternId })

/** What the tape says that sounded, in the port's terms: seconds, to the microsecond. */
function taped() {
  const stretch = player.tape.stretches.at(-1)!
  const perTick = 60 / 120 / 13440
  const begin = port.given[0]!.note.time - stretch.notes[0]!.start * perTick
  return stretch.notes.map(({ laneId, start, length }) => ({
    voice: laneId,
    time: begin + start * perTick,
    end: begin + (start + length) * perTick,
  }))
}
const rounded = (notes: { voice: string; time: number; end: number }[]) =>
  notes.map(({ voice, time, end }) => `${voice} ${time.toFixed(4)} ${end.toFixed(4)}`).sort()

describe('committing', () => {
  it('gives each note once, in time, never further ahead than the horizon', async () => {
    await player.play(playing(1))
    const begin = clock.time
    const port0 = port.given.length
    expect(port0).toBeGreaterThan(0)
    for (let step = 0; step < 100; step++) {
      await clock.run(player, 0.03)
      for (const { note } of port.given) expect(note.time - clock.time).toBeLessThanOrEqual(HORIZON + 1e-9)
    }
    const thuds = port.given.filter(({ note }) => note.voice.id === 'thud').map(({ note }) => note.time)
    thuds.forEach((time, at) => expect(time - thuds[0]!).toBeCloseTo(at * 0.5, 9))
    expect(thuds.length).toBe(Math.floor((clock.time - begin + HORIZON - 0.06) / 0.5) + 1)
  })

  it('tunes the sound of a note and leaves its MIDI note alone, on the tape too', async () => {
    player = new Player(
      clock,
      port,
      asking(async (question) => {
        const { events, ...rest } = standIn(question)
        const tunes = events.starts.map((_, at) => 2 * at)
        return { ...rest, events: { ...events, tunes, semitones: tunes } }
      }),
    )
    await player.play(playing(1))
    await clock.run(player, 0.6)
    expect(port.given.slice(0, 3).map(({ note }) => [note.semitones, note.pitch])).toEqual([
      [0, 36],
      [2, 37],
      [4, 37],
    ])
    const { tracks } = tapeOf(player.tape.stretches[0]!)
    expect(tracks.flatMap(({ notes }) => notes.map(([, , pitch, , tune]) => [pitch, tune]))).toContainEqual([
      37, 2,
    ])
  })

  it('plays on for an hour without a slip, and remembers no more after it than after a few minutes', async () => {
    await player.play(playing(1), 0)
    const remembered = () => [player.tape.stretches[0]!.notes.length, player.ready()!.known.items.length]
    await clock.run(player, 600, 0.09)
    const before = remembered()
    await clock.run(player, 3000, 0.09)
    remembered().forEach((count, at) => expect(count).toBeLessThan(1.6 * before[at]! + 200))
    const thuds = port.given.filter(({ note }) => note.voice.id === 'thud')
    expect(thuds.length).toBeGreaterThan(7190)
    expect(thuds.at(-1)!.note.time - thuds[0]!.note.time).toBeCloseTo((thuds.length - 1) * 0.5, 6)
  }, 60_000)

  it('begins where it is asked to', async () => {
    await player.play(playing(1), 3 * 53760)
    await clock.run(player, 0.5)
    expect(port.given[0]!.note.voice.id).toBe('thud')
    expect(player.tape.stretches[0]!.notes[0]!.start).toBe(3 * 53760)
    expect(player.tape.stretches[0]!.fromTick).toBe(3 * 53760)
  })

  it('leaves out what would come too late after the machine slept', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    const before = port.given.length
    clock.time += 2.5
    player.tick()
    for (const { note } of port.given.slice(before)) expect(note.time).toBeGreaterThan(clock.time - 0.5)
    // Nothing is missing that is not said to be.
    const { notes, leftOut } = player.tape.stretches[0]!
    const starts = [...notes, ...leftOut].map(({ start }) => start).sort((one, other) => one - other)
    const { events } = standIn({ score, dice: 1, window: { first_bar: 0, bars: 4 } })
    expect(starts).toEqual(events.starts.slice(0, starts.length))
  })

  it('says what was due and had not been committed when it is stopped', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    clock.time += 2.5
    player.stop()
    const { notes, leftOut, nowTick } = player.tape.stretches[0]!
    const starts = [...notes, ...leftOut].map(({ start }) => start)
    const { events } = standIn({ score, dice: 1, window: { first_bar: 0, bars: 4 } })
    expect(leftOut.length).toBeGreaterThan(0)
    expect(starts.filter((start) => start < nowTick)).toEqual(
      events.starts.filter((start) => start < nowTick),
    )
  })

  describe('while the engine cannot be asked', () => {
    let refusal: Error | null
    let asked: number
    beforeEach(() => {
      refusal = null
      asked = 0
      open.add('always')
      player = new Player(
        clock,
        port,
        asking(async (question) => {
          asked++
          if (refusal) throw refusal
          return standIn(question)
        }),
      )
      score = { ...score, bars: 8 }
    })
    const away = new ApiError(0, 'unreachable', 'The server cannot be reached.')
    const BAR = 53760
    const times = (voice: string) =>
      port.given.filter(({ note }) => note.voice.id === voice).map(({ note }) => note.time)
    const steadily = (voice: string, gap: number) =>
      times(voice).slice(1).forEach((time, at) => expect(time - times(voice)[at]!).toBeCloseTo(gap, 6)) // prettier-ignore

    it('goes on with what it has, and asks again', async () => {
      await player.play(playing(1))
      refusal = away
      await clock.run(player, 3)
      refusal = null
      await clock.run(player, 8)
      steadily('thud', 0.5)
      expect([player.trouble, player.loopingBars]).toEqual([null, null])
    })

    it('has 64 bars ready, then lets the last whole pass go round until the engine answers again', async () => {
      const [thud] = score.lanes
      score = { ...score, lanes: [thud!, aLane('chain', { source: { kind: 'drawn', steps: 24, hits: [] } })] }
      await player.play(playing(1), 3 * BAR)
      await clock.run(player, 8)
      refusal = away
      await clock.run(player, 59 * 2, 0.09)
      expect([player.loopingBars, player.trouble]).toEqual([null, away])
      await clock.run(player, 80, 0.09)
      expect(player.loopingBars).toEqual({ first: 72, end: 80 })
      steadily('thud', 0.5)
      // Every note is the one of the pass that goes round, at its place in the pass; the tape holds all.
      const { notes, leftOut } = player.tape.stretches[0]!
      const chain = notes.filter(({ laneId, start }) => laneId === 'chain' && start >= 88 * BAR)
      const first = standIn({ score, dice: 1, window: { first_bar: 72, bars: 8 } }).events
      const places = new Set(
        first.starts.filter((_, at) => first.lanes[at] === 1).map((start) => start - 72 * BAR),
      )
      expect(chain.length).toBeGreaterThan(10)
      for (const { start } of chain) expect(places).toContain((start - 72 * BAR) % (8 * BAR))
      expect(leftOut).toEqual([])
      expect(asked).toBeLessThan(60) // later each time, not three times a second
      refusal = null
      await clock.run(player, 30)
      expect([player.loopingBars, player.trouble]).toEqual([null, null])
      steadily('thud', 0.5)
    })

    it('lets bars go round that were heard, where an edit has left less than a pass ready', async () => {
      await player.play(playing(1))
      await clock.run(player, 40, 0.09)
      player.change(playing(1, { ...score, lanes: [score.lanes[0]!] }))
      await clock.run(player, 0.2)
      refusal = away
      await clock.run(player, 60, 0.09)
      expect(player.loopingBars).toEqual({ first: 8, end: 16 })
      steadily('thud', 0.5)
    })

    it('plays an edit once it can', async () => {
      await player.play(playing(1))
      await clock.run(player, 4)
      refusal = away
      player.change(playing(1, aScore(aLane('thud', { source: { kind: 'drawn', steps: 2, hits: [] } }))))
      await clock.run(player, 30)
      steadily('thud', 0.5)
      refusal = null
      await clock.run(player, 20)
      const last = times('thud').slice(-4)
      expect(last[3]! - last[2]!).toBeCloseTo(0.25, 6)
    })

    it('stays in its row of the order until what follows can be had', async () => {
      const rows = [0, 1].map((place) => ({ ...playing(1), row: { place, row: aRow({ bars: 2 }) } }))
      let isNextAway = true
      const ask = asking(async (question) => {
        if (question.row?.place && isNextAway) throw away
        return { ...standIn(question), ends: 2 * BAR }
      })
      player = new Player(clock, port, ask)
      player.following = ({ row }) => rows[(row?.place ?? 0) + 1] ?? null
      await player.play(rows[0]!)
      await clock.run(player, 13)
      expect([player.row?.place, player.loopingBars]).toEqual([0, { first: 0, end: 2 }])
      isNextAway = false
      await new Promise((resolve) => setTimeout(resolve, 1100)) // it is asked again after a pause
      await clock.run(player, 8)
      expect(player.tape.stretches.map(({ row }) => row?.place)).toEqual([0, 1])
      steadily('thud', 0.5)
    })

    it('says once what is refused, and asks no more about that', async () => {
      const refused: unknown[] = []
      await player.play(playing(1))
      player.onRefused = (of, reason) => refused.push([of, reason])
      refusal = new ApiError(422, 'document', 'too many notes')
      const bad = { ...score, bars: 9 }
      const before = asked
      player.change(playing(1, bad))
      await clock.run(player, 3)
      expect([refused, asked - before]).toEqual([[[bad, refusal]], 1])
      refusal = null
      player.change(playing(1))
      await clock.run(player, 1)
      expect(player.trouble).toBeNull()
    })
  })
})

describe('the tape holds what sounded', () => {
  it('while nothing is touched', async () => {
    await player.play(playing(1))
    await clock.run(player, 5)
    expect(rounded(taped())).toEqual(rounded(port.heard()))
  })

  it('when an edit comes in the middle of a bar', async () => {
    await player.play(playing(1))
    await clock.run(player, 1.23)
    const edited = aScore(aLane('thud', { source: { kind: 'drawn', steps: 5, hits: [] } }), score.lanes[1]!)
    player.change(playing(1, edited))
    await clock.run(player, 3)
    const thuds = player.tape.stretches[0]!.notes.filter(({ laneId }) => laneId === 'thud').map(
      ({ start }) => start,
    )
    const change = thuds.findIndex((start) => start % (4 * SIXTEENTH) !== 0)
    expect(thuds.slice(0, change).every((start) => start % (4 * SIXTEENTH) === 0)).toBe(true)
    expect(thuds.slice(change).every((start) => start % (5 * SIXTEENTH) === 0)).toBe(true)
    // On the first step after the edit, the engine's answer and the horizon.
    expect(thuds[change]!).toBeLessThan(((1.23 + HORIZON + 0.06) / 0.125 + 5) * SIXTEENTH)
    expect(rounded(taped())).toEqual(rounded(port.heard()))
  })

  it('when a lane is muted while its note sounds and the next is already committed', async () => {
    await player.play(playing(1))
    await clock.run(player, 1.02)
    const muted = aScore({ ...score.lanes[0]!, mute: true }, score.lanes[1]!)
    player.change(playing(1, muted))
    player.silence((id) => id === 'thud')
    const now = clock.time
    await clock.run(player, 2)
    const thuds = port.heard().filter(({ voice }) => voice === 'thud')
    expect(Math.max(...thuds.map(({ end }) => end))).toBeLessThanOrEqual(now)
    expect(port.heard().some(({ voice, time }) => voice === 'chain' && time > now + 1)).toBe(true)
    expect(rounded(taped())).toEqual(rounded(port.heard()))
  })

  it('when an answer to an older question arrives after the mute', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    player.change(playing(1, aScore({ ...score.lanes[0]!, velocity: 90 }, score.lanes[1]!))) // its answer is on its way
    player.change(playing(1, aScore({ ...score.lanes[0]!, velocity: 90, mute: true }, score.lanes[1]!)))
    player.silence((id) => id === 'thud')
    const now = clock.time
    await clock.run(player, 2)
    expect(port.heard().filter(({ voice, time }) => voice === 'thud' && time > now)).toEqual([])
    expect(rounded(taped())).toEqual(rounded(port.heard()))
  })

  it('when it is stopped in the middle of a note', async () => {
    await player.play(playing(1))
    await clock.run(player, 2.2)
    player.stop()
    const now = clock.time
    await clock.run(player, 1)
    expect(Math.max(...port.heard().map(({ end }) => end))).toBeLessThanOrEqual(now)
    expect(rounded(taped())).toEqual(rounded(port.heard()))
    const { nowTick, notes } = player.tape.stretches[0]!
    expect(notes.every(({ start, length }) => start < nowTick && start + length <= nowTick + 1)).toBe(true)
  })

  it('when notes of one pitch meet across an edit', async () => {
    const long = aScore(aLane('thud', { source: { kind: 'drawn', steps: 16, hits: [] } }))
    await player.play(playing(1, long))
    await clock.run(player, 0.4)
    player.change(playing(1, aScore(aLane('thud', { source: { kind: 'drawn', steps: 3, hits: [] } }))))
    await clock.run(player, 1.5)
    const [first, second] = player.tape.stretches[0]!.notes
    expect(first!.start + first!.length).toBe(second!.start)
    expect(rounded(taped())).toEqual(rounded(port.heard()))
  })
})

describe('changes', () => {
  it('follows a hand that moves faster than the engine answers', async () => {
    await player.play(playing(1))
    for (let velocity = 100; velocity > 40; velocity--) {
      player.change(playing(1, aScore({ ...score.lanes[0]!, velocity }, score.lanes[1]!)))
      await clock.run(player, 0.03)
    }
    const velocities = new Set(player.tape.stretches[0]!.notes.map(({ velocity }) => velocity))
    expect(velocities.size).toBeGreaterThan(3)
  })

  it('keeps its place across a change of tempo', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    const before = player.nowTick
    player.change(playing(1, { ...score, tempo: 60 }))
    expect(player.nowTick).toBeCloseTo(before, 6)
    await clock.run(player, 4)
    const thuds = port.given.filter(({ note }) => note.voice.id === 'thud').map(({ note }) => note.time)
    const gaps = thuds.slice(1).map((time, at) => time - thuds[at]!)
    expect(gaps[0]).toBeCloseTo(0.5, 9)
    expect(gaps.at(-1)).toBeCloseTo(1, 9)
    expect(player.tape.stretches[0]!.tempoChangedAt).toBeGreaterThan(before)
  })

  it('begins a new stretch of tape with each start', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    player.stop()
    await player.play(playing(1))
    await clock.run(player, 1)
    expect(player.tape.stretches.map(({ notes }) => notes.length > 0)).toEqual([true, true])
  })

  it('does not start after it was stopped while it waited for the first notes', async () => {
    const starting = player.play(playing(1))
    player.stop()
    await starting
    expect(player.isPlaying).toBe(false)
  })

  it('plays the newest score if it changed while it waited for the first notes', async () => {
    const starting = player.play(playing(1))
    player.change(playing(1, aScore(aLane('thud', { source: { kind: 'drawn', steps: 2, hits: [] } }))))
    await starting
    await clock.run(player, 3)
    const thuds = player.tape.stretches[0]!.notes.slice(-3).map(({ start }) => start)
    expect(thuds[2]! - thuds[1]!).toBe(2 * SIXTEENTH)
  })
})

describe('what is tried', () => {
  const beats = (id: string) => aLane(id, { source: { kind: 'drawn', steps: 4, hits: [] } })
  const heardAt = (voice: string) =>
    player.tape.stretches.at(-1)!.notes.filter(({ laneId }) => laneId === voice).map(({ start }) => start / 13440) // prettier-ignore

  it('is heard from the next beat on, and what played before it until then, without a gap', async () => {
    await player.play(playing(1, aScore(beats('thud'))))
    await clock.run(player, 2.1)
    player.changeAtBeat(playing(1, aScore(beats('bell'))))
    await clock.run(player, 1)
    player.changeAtBeat(playing(1, { ...aScore(beats('rope')), tempo: 60 }))
    await clock.run(player, 3)
    const all = [...heardAt('thud'), ...heardAt('bell'), ...heardAt('rope')]
    expect(all).toEqual(all.map((_, at) => at)) // every beat, each once, one after the other
    expect(heardAt('bell').length).toBeGreaterThan(0)
    const { tempoChangedAt } = player.tape.stretches.at(-1)!
    expect(tempoChangedAt! / 13440).toBe(heardAt('rope')[0])
  })

  it('goes on without a break where it becomes so', async () => {
    await player.play(playing(1, aScore(beats('thud'))))
    await clock.run(player, 2.1)
    const tried = aScore(beats('bell'))
    player.changeAtBeat(playing(1, tried))
    player.change(playing(1, { ...tried }))
    await clock.run(player, 2)
    const all = [...heardAt('thud'), ...heardAt('bell')]
    expect(all).toEqual(all.map((_, at) => at))
  })
})

describe('what changes while the first notes are waited for', () => {
  it('holds from the beginning: the tempo', async () => {
    const starting = player.play(playing(1))
    player.change(playing(1, { ...score, tempo: 60 }))
    await starting
    await clock.run(player, 5)
    const thuds = port.given.filter(({ note }) => note.voice.id === 'thud').map(({ note }) => note.time)
    expect(thuds[1]! - thuds[0]!).toBeCloseTo(1, 9)
    expect(player.tape.stretches[0]!.score.tempo).toBe(60)
  })

  it('is what begins: another pattern', async () => {
    const starting = player.play(playing(1))
    player.change(playing(1, aScore(aLane('bell', { source: { kind: 'drawn', steps: 4, hits: [] } })), 'b'))
    await starting
    await clock.run(player, 1)
    expect([...new Set(port.given.map(({ note }) => note.voice.id))]).toEqual(['bell'])
    expect(player.tape.stretches.map(({ patternId }) => patternId)).toEqual(['b'])
  })
})

describe('another pattern', () => {
  const BAR = 53760
  const BAR_SECONDS = 2
  const other = () => aScore(aLane('bell', { source: { kind: 'drawn', steps: 4, hits: [] } }))
  const strikes = (voice: string) =>
    port.given
      .filter((one) => one.note.voice.id === voice && one.cutAt > one.note.time)
      .map(({ note }) => note.time)

  it('begins at the next bar line, at its first step, without a gap', async () => {
    await player.play(playing(1))
    const begin = port.given[0]!.note.time
    await clock.run(player, 1)
    player.change(playing(2, other(), 'b'))
    expect(player.waitingFor).toBe('b')
    await clock.run(player, 3)
    expect(strikes('bell')[0]).toBeCloseTo(begin + BAR_SECONDS, 9)
    expect(strikes('bell')[1]! - strikes('bell')[0]!).toBeCloseTo(0.5, 9)
    expect(Math.max(...strikes('thud'))).toBeLessThan(begin + BAR_SECONDS)
    expect([player.patternId, player.waitingFor]).toEqual(['b', ''])
  })

  it('has a stretch of tape of its own; the one before ends at the bar line', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    player.change(playing(2, other(), 'b'))
    await clock.run(player, 5)
    const [before, after] = player.tape.stretches
    expect([before!.patternId, before!.nowTick]).toEqual(['a', BAR])
    expect([after!.patternId, after!.fromTick, after!.notes[0]!.start]).toEqual(['b', 0, 0])
    expect(player.tape.newestWhole()).toBe(after)
  })

  it('tells where the pattern is that is heard, until the other one is', async () => {
    await player.play(playing(1))
    await clock.run(player, 1.5)
    player.change(playing(2, other(), 'b'))
    let last = player.nowTick
    for (let step = 0; step < 60; step++) {
      await clock.run(player, 0.02, 0.02)
      if (player.patternId === 'a') expect(player.nowTick).toBeGreaterThanOrEqual(last)
      else expect(player.nowTick).toBeLessThan(BAR / 2)
      last = player.nowTick
    }
    expect(player.patternId).toBe('b')
  })

  it('is forgotten when the hand goes back before the bar line', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    player.change(playing(2, other(), 'b'))
    player.change(playing(1))
    await clock.run(player, 4)
    expect(strikes('bell')).toEqual([])
    expect(player.tape.stretches.length).toBe(1)
  })

  it('takes over where the engine says, from where it says, and is asked again where that came too late', async () => {
    const asked: number[] = []
    let late = true
    open.add('always')
    player = new Player(clock, port, {
      sounds: async (question) => standIn(question),
      switches: async ({ tick, began, to }) => {
        asked.push(tick)
        if (late) await settle()
        const place = late ? 0 : Math.ceil(tick / SIXTEENTH) * SIXTEENTH
        late = false
        const from_tick = to === 'carry on' ? began + place : 0
        const window = { first_bar: Math.floor(from_tick / BAR), bars: 4 }
        return { tick: place, from_tick, sounds: standIn({ score: other(), dice: 2, window }) }
      },
    })
    await player.play(playing(1))
    const begin = port.given[0]!.note.time
    await clock.run(player, 1.3)
    player.change(playing(2, other(), 'b'), { at: 'once', to: 'carry on' })
    await clock.run(player, 2)
    expect(asked.length).toBe(2)
    const [before, after] = player.tape.stretches
    expect(after!.fromTick).toBe(before!.nowTick)
    expect(after!.fromTick).toBeLessThan(BAR)
    expect(after!.fromTick % SIXTEENTH).toBe(0)
    // As if it had been playing since play was pressed: on every quarter of a beat of the same time.
    strikes('bell').forEach((time) => expect(((time - begin) / 0.5) % 1).toBeCloseTo(0, 6))
    // And from there to the first pattern again, as if that had never left.
    player.change(playing(1), { at: 'once', to: 'carry on' })
    await clock.run(player, 2)
    expect(player.tape.stretches[2]!.fromTick).toBe(player.tape.stretches[1]!.nowTick)
  })

  it('plays row after row without a gap, each cut where it ends, and is over after the last', async () => {
    const rows = [0, 1, 2].map((place) => ({ ...playing(place), row: { place, row: aRow() } }))
    const turns: unknown[] = []
    open.add('always')
    let isOver = false
    player = new Player(
      clock,
      port,
      asking(async (question) => {
        const heard = standIn(question)
        return { ...heard, ends: 2 * BAR }
      }),
    )
    player.following = ({ row }) => rows[(row?.place ?? 0) + 1] ?? null
    player.onTurn = ({ row }) => turns.push(row?.place)
    player.onOver = () => {
      isOver = true
      player.stop()
    }
    await player.play(rows[0]!)
    const begin = port.given[0]!.note.time
    await clock.run(player, 4 * BAR_SECONDS + 0.1)
    expect(player.row?.place).toBe(2)
    await clock.run(player, 2 * BAR_SECONDS)
    expect([turns, isOver, player.isPlaying]).toEqual([[1, 2], true, false])
    expect(player.tape.stretches.map(({ nowTick, row }) => [Math.round(nowTick), row?.place])).toEqual([
      [2 * BAR, 0],
      [2 * BAR, 1],
      [2 * BAR, 2],
    ])
    const firsts = player.tape.stretches.map(({ notes }) => notes[0]!.time - begin)
    firsts.forEach((time, at) => expect(time).toBeCloseTo(at * 2 * BAR_SECONDS, 6))
  })

  it('lets what follows wait for where a row ends now, and plays it as it is now', async () => {
    open.add('always')
    let ends = 2 * BAR
    let second = score
    player = new Player(
      clock,
      port,
      asking(async (question) => ({ ...standIn(question), ends: question.row?.place ? null : ends })),
    )
    const rowOf = (place: number, of: Score) => ({ ...playing(1, of), row: { place, row: aRow() } })
    player.following = ({ row }) => (row?.place ? null : rowOf(1, second))
    await player.play(rowOf(0, score))
    const begin = port.given[0]!.note.time
    await clock.run(player, 1)
    // The row grows by a bar under the hand, and what follows is another score by then.
    ends = 3 * BAR
    second = other()
    player.change(rowOf(0, { ...score }))
    player.followAnew()
    await clock.run(player, 2 * BAR_SECONDS)
    expect(player.tape.stretches.length).toBe(1)
    await clock.run(player, BAR_SECONDS)
    expect(player.tape.stretches[0]!.nowTick).toBe(3 * BAR)
    expect(strikes('bell')[0]).toBeCloseTo(begin + 3 * BAR_SECONDS, 6)
    expect(Math.max(...strikes('thud'))).toBeLessThan(begin + 3 * BAR_SECONDS)
  })

  it('is heard as it was edited while it waited', async () => {
    await player.play(playing(1))
    await clock.run(player, 0.5)
    player.change(playing(2, other(), 'b'))
    await clock.run(player, 0.3)
    player.change(playing(2, aScore(aLane('rope')), 'b'))
    await clock.run(player, 3)
    expect(strikes('bell')).toEqual([])
    expect(strikes('rope').length).toBeGreaterThan(0)
  })

  it('withdraws both when it is stopped around the bar line', async () => {
    await player.play(playing(1))
    await clock.run(player, 1)
    player.change(playing(2, other(), 'b'))
    await clock.run(player, 1)
    player.stop()
    expect(strikes('bell')).toEqual([])
    expect(player.isPlaying).toBe(false)
    expect(player.tape.stretches.at(-1)!.notes).toEqual([])
  })
})

describe('controls', () => {
  const moving = (...values: number[]) =>
    aScore(aLane('thud', { control_strips: [{ controller: 74, values }] }), aLane('bell'))

  it('are sent at their ticks and lie on the tape', async () => {
    await player.play(playing(1, moving(10, 20, 30)))
    await clock.run(player, 4.2)
    expect(port.moves.map(({ controller, value }) => [controller, value])).toEqual([[74, 10], [74, 20], [74, 30]]) // prettier-ignore
    const [first, second] = port.moves
    expect(second!.time - first!.time).toBeCloseTo(2, 9)
    expect(player.tape.stretches[0]!.controls.map(({ tick }) => tick)).toEqual([0, 53760, 107520])
  })

  it('begin with what they hold where playing begins within the pattern', async () => {
    await player.play(playing(1, moving(10, 20, 30)), 53760)
    await clock.run(player, 0.2)
    expect(port.moves.map(({ value }) => value)).toEqual([10, 20])
  })

  it('are put right when the score changes, and only then', async () => {
    const score = moving(10)
    await player.play(playing(1, score))
    await clock.run(player, 1)
    player.change(playing(1, { ...score, lanes: [...score.lanes, aLane('gull')] }))
    await clock.run(player, 0.5)
    expect(port.moves.map(({ value }) => value)).toEqual([10])
    player.change(playing(1, moving(99)))
    await clock.run(player, 0.3)
    expect(port.moves.map(({ value }) => value)).toEqual([10, 99])
  })

  it('of a silenced lane are not sent', async () => {
    await player.play(playing(1, moving(10, 20, 30)))
    await clock.run(player, 1)
    player.silence((id) => id === 'thud')
    await clock.run(player, 1.5)
    expect(port.moves.map(({ value }) => value)).toEqual([10])
  })
})

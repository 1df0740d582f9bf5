// @vitest-environment node
import { describe, expect, it } from 'vitest'

import type { Schemas } from '@/api/client'
import { PLAIN_VOICE } from '@/work/document'
import { LoopPlayer, secondsOf, type Loop } from './loop'
import { LEAD_IN } from './player'
import type { Strike } from './port'

const QUARTER = 13440
const voice = { id: 'thud', name: 'Thud', pitch: 36, ...PLAIN_VOICE }
const sound = { voice, semitones: 0, level_db: 0, pan: 0, room: 0 }

function loopOf(starts: number[], fields: Partial<Loop> = {}): Loop {
  const notes = starts.map((start) => [start, 100, 36, 90, 0] as Schemas['Note'])
  const tracks = [{ lane: 'Thud', channel: 10, notes, controls: [], sounds: { 36: sound } }]
  return { lengthTicks: 4 * QUARTER, tempo: 60, tempoChanges: [], tracks, ...fields }
}

function aPlayer() {
  let now = 0
  const struck: Strike[] = []
  const cut: number[] = []
  const player = new LoopPlayer(
    { now: () => now },
    {
      strike: (note) => {
        struck.push(note)
        return { cut: (time) => cut.push(time) }
      },
      move: () => undefined,
    },
  )
  const runTo = (time: number) => {
    while (now < time) {
      now = Math.min(time, now + 0.05)
      player.tick()
    }
  }
  const times = () => struck.map(({ time }) => Math.round((time - LEAD_IN) * 1000) / 1000)
  return { player, struck, cut, runTo, times }
}

describe('a loop', () => {
  it('goes round without a gap, to the tick', () => {
    const { player, runTo, times } = aPlayer()
    player.play(loopOf([0, QUARTER * 3]))
    runTo(9)
    expect(times()).toEqual([0, 3, 4, 7, 8])
    expect(player.struck.map(({ start }) => start / QUARTER)).toEqual([0, 3, 4, 7, 8])
  })

  it('tunes the sounds of notes that say so', () => {
    const { player, runTo, struck } = aPlayer()
    const notes: Schemas['Note'][] = [[0, 100, 36, 90, 0], [QUARTER, 100, 36, 90, 7]] // prettier-ignore
    player.play(loopOf([], { tracks: [{ ...loopOf([]).tracks[0]!, notes }] }))
    runTo(2)
    expect(struck.map(({ semitones, pitch }) => [semitones, pitch])).toEqual([
      [0, 36],
      [7, 36],
    ])
  })

  it('is exchanged in time, at the same place', () => {
    const { player, runTo, times } = aPlayer()
    player.play(loopOf([0, QUARTER * 2]))
    runTo(1.5)
    player.change(loopOf([QUARTER, QUARTER * 3]))
    runTo(6)
    expect(times()).toEqual([0, 3, 5])
  })

  it('goes on in its place when a longer one follows, and goes round by its length', () => {
    const { player, runTo, times } = aPlayer()
    player.play(loopOf([0]))
    runTo(5) // in its second pass
    player.change(loopOf([0, QUARTER * 6], { lengthTicks: 8 * QUARTER }))
    runTo(13)
    expect(times()).toEqual([0, 4, 10, 12])
  })

  it('keeps to its tempo and changes it where it says, in every pass', () => {
    const { player, runTo, times } = aPlayer()
    player.play(loopOf([0, QUARTER, QUARTER * 3], { tempoChanges: [[QUARTER * 2, 120]] }))
    runTo(6.8)
    expect(times()).toEqual([0, 1, 2.5, 3, 4, 5.5, 6])
  })

  it('lasts as long as its tempos say', () => {
    expect(secondsOf(loopOf([]))).toBe(4)
    expect(secondsOf(loopOf([], { tempoChanges: [[QUARTER * 2, 120]] }))).toBe(3)
  })

  it('strikes nothing twice and nothing late, however often it is asked', () => {
    const { player, runTo, struck } = aPlayer()
    player.play(loopOf([0, 10, 20]))
    for (let again = 0; again < 5; again++) player.tick()
    runTo(4.5)
    expect(struck.length).toBe(6)
  })

  it('ends at once: what sounds is cut, and nothing more is struck', () => {
    const { player, runTo, struck, cut } = aPlayer()
    player.play(loopOf([0, QUARTER]))
    runTo(LEAD_IN)
    player.stop()
    runTo(5)
    expect(struck.length).toBe(1)
    expect(cut.length).toBe(1)
    expect(player.isPlaying).toBe(false)
    expect(player.nowTick).toBe(0)
  })

  it('plays only what has a sound', () => {
    const { player, runTo, struck } = aPlayer()
    const loop = loopOf([0])
    player.play({ ...loop, tracks: loop.tracks.map((track) => ({ ...track, sounds: {} })) })
    runTo(3)
    expect(struck).toEqual([])
  })
})

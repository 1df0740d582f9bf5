import { describe, expect, it } from 'vitest'

import { aLane, asking, aScore, RecordingPort, standIn } from '@/testing'
import { LEAD_IN, Player } from './player'

const score = aScore(aLane('thud'))

async function counted(barsBefore: number) {
  let now = 0
  const port = new RecordingPort()
  const player = new Player(
    { now: () => now },
    port,
    asking(async (question) => standIn(question)),
  )
  await player.play({ score, dice: 1, patternId: 'a' }, 0, barsBefore)
  return { player, port, goTo: (time: number) => ((now = time), player.tick()) }
}

describe('a count-in', () => {
  it('clicks on each beat of a bar, the first higher, and then the music begins', async () => {
    const { player, port, goTo } = await counted(1)
    const clicks = port.given.map(({ note }) => [Math.round((note.time - LEAD_IN) * 1000), note.semitones])
    expect(clicks).toEqual([[0, 7], [500, 0], [1000, 0], [1500, 0]]) // prettier-ignore
    goTo(LEAD_IN + 1.99)
    expect(port.given[4]?.note.time).toBeCloseTo(LEAD_IN + 2)
    expect(player.nowTick).toBe(0)
  })
  it('is on no tape', async () => {
    const { player, goTo } = await counted(1)
    goTo(LEAD_IN + 2.05)
    expect(player.tape.stretches.at(-1)?.notes.every(({ laneId }) => laneId === 'thud')).toBe(true)
    expect(player.tape.stretches.at(-1)?.fromTick).toBe(0)
  })
  it('ends when it is stopped', async () => {
    const { player, port } = await counted(2)
    expect(port.given).toHaveLength(8)
    player.stop()
    expect(port.given.every(({ cutAt }) => cutAt < Infinity)).toBe(true)
  })
  it('is left out where none is wanted', async () => {
    const { port } = await counted(0)
    expect(port.given[0]?.note.voice.id).toBe('thud')
    expect(port.given[0]?.note.time).toBeCloseTo(LEAD_IN)
  })
})

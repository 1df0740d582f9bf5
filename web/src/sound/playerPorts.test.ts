/** What ports are given beside notes: controllers and programs; and what ends when a lane is gone. */
import { beforeEach, expect, it } from 'vitest'

import type { Lane, Score } from '@/api/client'
import { aLane, asking, aScore, RecordingPort, standIn } from '@/testing'
import { Player } from './player'
import { SIMULATED, type Choosing } from './port'

class ChoosingPort extends RecordingPort {
  readonly chosen: Choosing[] = []
  choose(program: Choosing) {
    this.chosen.push(program)
  }
}

let time: number
let port: ChoosingPort
let player: Player
const settle = () => new Promise((resolve) => setTimeout(resolve))
async function run(seconds: number) {
  for (const end = time + seconds; time < end - 1e-9;) {
    time = Math.min(end, time + 0.03)
    player.tick()
    await settle()
  }
}
const playing = (score: Score) => ({ score, dice: 1, patternId: 'a' })
const four: Partial<Lane> = { source: { kind: 'drawn', steps: 4, hits: [] } }
const aStrip = (controller: number, ...values: number[]) => ({ controller, values, free: null, spread: null })

beforeEach(() => {
  time = 10
  port = new ChoosingPort()
  player = new Player(
    { now: () => time },
    port,
    asking(async (question) => standIn(question)),
  )
})

it('gives each note and each move to the port of its lane', async () => {
  const score = aScore(aLane('thud', four), aLane('bell', { ...four, port: SIMULATED }))
  await player.play(playing(score))
  await run(1)
  expect(new Set(port.given.map(({ note }) => `${note.part} ${note.port}`))).toEqual(
    new Set(['thud built-in sounds', `bell ${SIMULATED}`]),
  )
})

it('sends a controller back to where it changes nothing when its strip is taken away', async () => {
  const moved = aLane('thud', { ...four, control_strips: [aStrip(74, 20), aStrip(1, 90)] })
  await player.play(playing(aScore(moved)))
  await run(1)
  const last = () => new Map(port.moves.map(({ controller, value }) => [controller, value]))
  expect(last()).toEqual(new Map([[74, 20], [1, 90]])) // prettier-ignore
  player.change(playing(aScore({ ...moved, control_strips: [aStrip(1, 90)] } as Lane)))
  await run(0.5)
  expect(last()).toEqual(new Map([[74, 64], [1, 90]])) // prettier-ignore
})

it('moves a controller before the note that begins with it', async () => {
  await player.play(playing(aScore(aLane('thud', { ...four, control_strips: [aStrip(74, 1, 2, 3)] }))))
  const order: string[] = []
  const strike = port.strike.bind(port)
  port.strike = (note) => (order.push(`note ${note.time.toFixed(3)}`), strike(note))
  port.move = ({ time: at }) => void order.push(`move ${at.toFixed(3)}`)
  await run(4.5)
  const bars = order.filter((one) => one.startsWith('move')).map((one) => one.slice(5))
  expect(bars.length).toBeGreaterThan(0)
  for (const at of bars) expect(order.indexOf(`move ${at}`)).toBe(order.indexOf(`note ${at}`) - 1)
})

it('tells an instrument once what to choose, and again when that is another', async () => {
  const program = (number: number) =>
    aScore(aLane('bell', { ...four, port: SIMULATED, channel: 3, program: { number, bank: null } }))
  await player.play(playing(program(5)))
  await run(1)
  player.change(playing({ ...program(5), tempo: 100 }))
  await run(0.5)
  player.change(playing(program(6)))
  await run(0.5)
  expect(port.chosen.map(({ channel, program: { number } }) => [channel, number])).toEqual([
    [3, 5],
    [3, 6],
  ])
})

it('ends what a lane sounds when the lane is gone, at once, and on the tape', async () => {
  const long = aLane('bell', { ...four, length_percent: 400 })
  await player.play(playing(aScore(aLane('thud', four), long)))
  await run(0.8)
  player.change(playing(aScore(aLane('thud', four))))
  const ends = port.given.filter(({ note }) => note.part === 'bell').map(({ note, cutAt }) => Math.min(note.end, cutAt)) // prettier-ignore
  expect(ends.length).toBeGreaterThan(0)
  for (const end of ends) expect(end).toBeLessThanOrEqual(time + 1e-9)
  await run(1)
  expect(port.given.filter(({ note }) => note.part === 'bell')).toHaveLength(ends.length)
})

it('counts on over patterns, and goes gently where a clock from outside says that it is', async () => {
  const score = aScore(aLane('thud', four))
  await player.play(playing(score))
  await run(1)
  const at = player.elapsedAt(time)!
  expect(player.timeOfElapsed(at)).toBeCloseTo(time, 9)
  const ahead = at + 13440 / 4
  for (let look = 0; look < 60; look++) {
    player.steer(ahead + ((look * 0.03 * 120) / 60) * 13440, time)
    await run(0.03)
  }
  const wanted = ahead + ((60 * 0.03 * 120) / 60) * 13440
  expect(Math.abs(player.elapsedAt(time)! - wanted)).toBeLessThan(13440 * 0.05)
  const starts = port.given.map(({ note }) => note.time)
  const apart = starts.slice(1).map((one, place) => one - starts[place]!)
  expect(Math.min(...apart)).toBeGreaterThan(0.5 / 1.21)
})

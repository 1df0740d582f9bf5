import { beforeEach, expect, it } from 'vitest'

import type { Score } from '@/api/client'
import { aLane, asking, aScore, RecordingPort, standIn } from '@/testing'
import { Player } from './player'

const settle = () => new Promise((resolve) => setTimeout(resolve))
const PER_SECOND = 13440 * 2 // ticks, at 120

let time = 0
let port: RecordingPort
let player: Player
let score: Score
/** Answers that the engine holds back. */
let waiting: (() => void)[]
let isSlow = false

beforeEach(async () => {
  time = 10
  waiting = []
  isSlow = false
  port = new RecordingPort()
  player = new Player(
    { now: () => time },
    port,
    asking((question) =>
      isSlow
        ? new Promise((resolve) => waiting.push(() => resolve(standIn(question))))
        : Promise.resolve(standIn(question)),
    ),
  )
  score = aScore(aLane('thud', { source: { kind: 'drawn', steps: 1, hits: [] } }))
  await player.play({ score, dice: 1, patternId: 'a' })
})

async function run(seconds: number) {
  for (let step = 0; step < seconds / 0.01; step++) {
    time += 0.01
    player.tick()
    await settle()
  }
}
/** A key changes: another score, and from where on it counts. */
function change(): number {
  const tick = player.keyTick()
  score = { ...score } // another object is another state
  player.change({ score, dice: 1, patternId: 'a' })
  return tick
}
const lastCommitted = () => Math.max(...player.tape.stretches.at(-1)!.notes.map(({ start }) => start))
const now = () => player.nowTick

it('commits nothing from where a key counts before the engine has answered', async () => {
  await run(1)
  isSlow = true
  const tick = change()
  expect(tick).toBeGreaterThan(now())
  expect((tick - now()) / PER_SECOND).toBeLessThan(0.15)
  await run(0.05)
  expect(lastCommitted()).toBeLessThan(tick)
  waiting.forEach((answer) => answer())
  await run(0.2)
  expect(lastCommitted()).toBeGreaterThanOrEqual(tick)
})

/** Let keys whose answer is late count later, and return from where to where each was moved. */
function movesOfLateKeys() {
  const moves: [number, number][] = []
  player.onLateKeys = (late, tick) => {
    moves.push([late, tick])
    score = { ...score }
    player.change({ score, dice: 1, patternId: 'a' })
  }
  return moves
}

it('goes on without a gap where the answer is late, and lets the keys count later', async () => {
  await run(1)
  isSlow = true
  const moves = movesOfLateKeys()
  const tick = change()
  await run(0.2)
  expect(moves[0]?.[0]).toBe(tick)
  expect(moves[0]?.[1]).toBeGreaterThan(tick)
  // What lies between is what was known before: it sounds in time.
  expect(lastCommitted()).toBeGreaterThanOrEqual(tick)
  expect(lastCommitted()).toBeLessThan(moves.at(-1)![1])
  await run(4)
  expect(moves.length).toBeLessThan(9) // each time it waits longer
  isSlow = false
  waiting.forEach((answer) => answer())
  await run(2.5)
  expect(lastCommitted()).toBeGreaterThan(moves.at(-1)![1])
})

it('tells apart keys that change one right after the other', async () => {
  await run(1)
  isSlow = true
  const [first, second] = [change(), change()]
  expect(second).toBeGreaterThan(first)
})

it('keeps the order of what hands did, also where some of it had to count later', async () => {
  await run(1)
  isSlow = true
  const moves = movesOfLateKeys()
  const [struck, letGo] = [change(), change()]
  await run(0.2)
  // Where the second of them counts now: the next key comes after it.
  const [late, tick] = moves.at(-1)!
  expect(late).toBeGreaterThanOrEqual(struck)
  const apart = letGo - struck
  isSlow = false
  waiting.forEach((answer) => answer())
  await run(0.02)
  expect(player.keyTick()).toBeGreaterThan(tick + apart)
})

it('counts from the beginning where nothing plays', () => {
  player.stop()
  expect(player.keyTick()).toBe(0)
})

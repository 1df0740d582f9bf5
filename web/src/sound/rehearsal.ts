/** Playing without sound on a clock that is stepped, as fast as the engine answers: hours of music in seconds. */
import type { Playing } from './tape'
import { LEAD_IN, Player } from './player'
import type { Engine } from './requests'
import type { Move, Sounding, Strike } from './port'

/** What a hand does at a moment, in seconds from the start. */
export interface Hand {
  readonly at: number
  readonly playing: Playing
  /** Lanes that are silenced at once. */
  readonly silenced?: readonly string[]
}

export interface Rehearsed {
  /** What was given to the port: time and end in seconds from the start; where it was cut, if it was. */
  readonly struck: readonly {
    lane: string
    pitch: number
    velocity: number
    time: number
    end: number
    cutAt: number | null
  }[]
  readonly moves: readonly { controller: number; value: number; time: number }[]
  /** What the tape holds of its first stretch. */
  readonly notes: readonly {
    laneId: string
    start: number
    length: number
    pitch: number
    velocity: number
  }[]
}

/** Seconds between two looks of the player, as with a busy machine. */
const STEP = 0.06

export async function rehearse(
  first: Playing,
  seconds: number,
  hands: readonly Hand[],
  engine: Engine,
  following: (playing: Playing) => Playing | null = () => null,
): Promise<Rehearsed> {
  let time = 0
  const given: { note: Strike; cutAt: number | null }[] = []
  const moves: Move[] = []
  const port = {
    strike(note: Strike): Sounding {
      const entry: (typeof given)[number] = { note, cutAt: null }
      given.push(entry)
      return { cut: (at) => (entry.cutAt = Math.min(entry.cutAt ?? Infinity, at)) }
    },
    move: (move: Move) => void moves.push(move),
  }
  // The clock stands still while the engine is asked: an answer is never late here.
  const asked = new Set<Promise<unknown>>()
  const counted = <Answer>(answer: Promise<Answer>): Promise<Answer> => {
    asked.add(answer)
    void answer.finally(() => asked.delete(answer))
    return answer
  }
  const player = new Player({ now: () => time }, port, {
    sounds: (question) => counted(engine.sounds(question)),
    switches: (question) => counted(engine.switches(question)),
  })
  player.following = following
  await player.play(first)
  const stretch = player.tape.stretches.at(-1)
  const waiting = [...hands]
  while (time < seconds) {
    time = Math.min(seconds, time + STEP)
    for (let hand = waiting[0]; hand && hand.at <= time - LEAD_IN; hand = waiting[0]) {
      waiting.shift()
      const { silenced } = hand
      if (silenced) player.silence((id) => silenced.includes(id))
      player.change(hand.playing)
    }
    player.tick()
    while (asked.size) {
      await Promise.all(asked)
      await Promise.resolve()
    }
  }
  const begin = LEAD_IN
  return {
    struck: given.map(({ note, cutAt }) => ({
      lane: note.voice.id,
      pitch: note.pitch,
      velocity: note.velocity,
      time: note.time - begin,
      end: note.end - begin,
      cutAt: cutAt === null ? null : cutAt - begin,
    })),
    moves: moves.map((move) => ({ controller: move.controller, value: move.value, time: move.time - begin })),
    notes: (stretch?.notes ?? []).map(({ laneId, start, length, pitch, velocity }) => ({
      laneId, start, length, pitch, velocity,
    })), // prettier-ignore
  }
}

/** Documents and stand-ins for tests. */
import type { Lane, LanePicture, OrderRow, Piece, Schemas, Score } from '@/api/client'
import { BUILT_IN, type Move, type Port, type Sounding, type Strike } from '@/sound/port'
import type { Ask, Engine, Question } from '@/sound/requests'
import { PLAIN_PACE, PLAIN_VOICE, plainLane } from '@/work/document'
import { usePiece } from '@/work/piece'

export function aLane(id: string, fields: Partial<Lane> = {}): Lane {
  const source = { kind: 'euclidean', hits: 4, steps: 16 } as const
  return { ...plainLane({ id, name: id, voice: id, ink: 0, source }), ...fields }
}

export function aPiece(...lanes: Lane[]): Piece {
  const step_value = { note: 16, kind: 'plain', multiplier: 1, divisor: 1 } as const
  const voices = lanes.map(({ voice }, at) => ({ id: voice, name: voice, pitch: 36 + at, ...PLAIN_VOICE }))
  return {
    version: 3,
    name: 'Night Ferry',
    tempo: 120,
    swing: { percent: 50, note: 16 },
    scale: { root: 0, name: 'major', degrees: [] },
    kit: { name: 'Dockside', channel: 10, voices },
    order: [],
    hands: [],
    patterns: [
      {
        id: 'a',
        name: 'A',
        dice: 1,
        ink: 0,
        meter: { numerator: 4, denominator: 4 },
        bars: 16,
        step_value,
        lanes,
        detours: [],
        degrees_up: 0,
        semitones_up: 0,
        movements: [],
        moved_detours: [],
      },
    ],
  }
}

export const aRow = (fields: Partial<OrderRow> = {}): OrderRow => ({
  pattern: 'a', repeats: 1, bars: null, degrees_up: 0, semitones_up: 0, scale: null, pace: PLAIN_PACE, mutes: [], ...fields,
}) // prettier-ignore

export function aScore(...lanes: Lane[]): Score {
  const { tempo, swing, scale, kit, patterns } = aPiece(...lanes)
  const { meter, bars, step_value } = patterns[0]!
  return {
    tempo, swing, scale, kit, meter, bars, step_value, lanes, detours: [], held_detours: [],
    degrees_up: 0, semitones_up: 0, movements: [], moved_detours: [], pace: PLAIN_PACE,
  } // prettier-ignore
}

export function aPicture(fields: Partial<LanePicture> = {}): LanePicture {
  return {
    id: 'thud', silent: false, steps: 4, first_step: 0, last_step: 3, cycle_hits: [0], step_ticks: 100, cycle_ticks: 400,
    cycle_length: '', is_gapped: false, follows: null, kept: null, away: null, starts: [], numbers: [], hits: [], sounds: [], velocities: [], lengths: [],
    chances: [], onsets: [], ratchets: [], accents: [], ties: [], octaves: [], letters: [], covered: [], louder: [], bursts: [], values: [], painted_on: null, pitches: [], degrees: [], staff: null, folded: 0, held: [], tone: null, port: 'built-in', plays_on: 1, cycle_starts: [], cycle_ends: [], draws: [], edited: [], ruled: [], sentence: { parts: [] }, busy: null, movements: [], ...fields,
  } // prettier-ignore
}

type Asked = Question & { known?: Readonly<Record<string, string>> }
interface StandIn {
  readonly news: Schemas['News']
  readonly sounds: Schemas['Sounds']
}

/** The stand-in as what the player asks: another pattern takes over at the next bar line, and begins. */
export const asking = (ask: Ask): Engine => ({
  sounds: ask,
  switches: async ({ coming, tick }) => ({
    tick: Math.ceil(tick / 53760) * 53760,
    from_tick: 0,
    sounds: await ask({ ...coming, window: { first_bar: 0, bars: 4 } }),
  }),
})

/**
 * A stand-in for the engine that knows one rule: a lane sounds on every `source.steps`-th quarter of a beat, each note as
 * long as `length_percent` of it. Enough to see what the player makes of answers.
 */
export const standIn = (question: Asked): Schemas['Sounds'] => both(question).sounds
/** What it draws. */
export const standInNews = (question: Asked): Schemas['News'] => both(question).news

function both({ score: asked, window, known = {} }: Asked): StandIn {
  const bar = 53760
  // As the engine does: what is plain need not be said.
  const score = { ...asked, lanes: asked.lanes.map((lane) => ({ ...plainLane(lane), ...lane })) }
  const [first, end] = [window.first_bar * bar, (window.first_bar + window.bars) * bar]
  const notes = score.lanes.flatMap((lane, index) => {
    const every = ('steps' in lane.source ? lane.source.steps : 1) * 3360
    const count = lane.mute ? 0 : Math.ceil(end / every)
    return Array.from({ length: count }, (_, at) => ({
      index,
      start: at * every,
      length: Math.round((every * lane.length_percent) / 100),
      pitch: 36 + index,
      velocity: lane.velocity,
    })).filter(({ start }) => start >= first)
  })
  notes.sort((one, other) => one.start - other.start || one.index - other.index)
  const markOf = (one: LanePicture) => JSON.stringify(one)
  const pictures = score.lanes.map(({ id, source }) =>
    aPicture({ id, steps: 'steps' in source ? source.steps : 1 }),
  )
  const place = { first_tick: first, end_tick: end, bar_ticks: bar, beat_ticks: 13440 }
  const news = {
    ...place,
    standing: [],
    chords: [],
    progression: '',
    scale_chords: [],
    away: [],
    property: null,
    benches: [],
    meeting: { says: '', at: [], of: [] },
    sounds: null,
    lanes: pictures.filter((one) => known[`lane ${one.id}`] !== markOf(one)),
    marks: Object.fromEntries(pictures.map((one) => [`lane ${one.id}`, markOf(one)])),
  }
  const heard = {
    ...place,
    lanes: score.lanes.map(({ id }) => id),
    ports: score.lanes.map(({ port }) => port ?? BUILT_IN),
    programs: score.lanes.flatMap(({ id, port, channel, program }) =>
      program ? { lane: id, port: port ?? BUILT_IN, channel: channel ?? 10, program } : [],
    ),
    settings: score.lanes.map(({ level_db, pan }) => ({ level_db, pan, room: 0, tone: null })),
    voices: score.lanes.map(
      ({ voice, name }) =>
        score.kit.voices.find(({ id }) => id === voice) ?? {
          id: voice,
          name,
          pitch: 60,
          ...PLAIN_VOICE,
        },
    ),
    events: {
      lanes: notes.map(({ index }) => index),
      starts: notes.map(({ start }) => start),
      lengths: notes.map(({ length }) => length),
      pitches: notes.map(({ pitch }) => pitch),
      velocities: notes.map(({ velocity }) => velocity),
      tunes: notes.map(() => 0),
      voices: notes.map(({ index }) => index),
      semitones: notes.map(() => 0),
      channels: notes.map(() => 10),
      straights: notes.map(({ start }) => start),
      settings: notes.map(({ index }) => index),
    },
    ends: null,
    controls: controlsOf(score, first, end),
    held: first > 0 ? controlsOf(score, 0, first, true) : noControls,
  }
  return { news, sounds: heard }
}

/** Each control strip sends its values one after the other, one every bar. `isHeld`: only the last one. */
function controlsOf(score: Score, first: number, end: number, isHeld = false): Schemas['ControlColumns'] {
  const bar = 53760
  const rows = score.lanes.flatMap((lane, index) =>
    lane.control_strips.flatMap(({ controller, values = [] }) => {
      const sent = Array.from({ length: Math.max(0, Math.ceil((end - first) / bar)) }, (_, at) => {
        const number = first / bar + at
        return { index, tick: number * bar, controller, value: values[number % values.length] ?? 0 }
      })
      return isHeld ? sent.slice(-1).map((one) => ({ ...one, tick: end })) : sent
    }),
  )
  return {
    lanes: rows.map(({ index }) => index),
    ticks: rows.map(({ tick }) => tick),
    controllers: rows.map(({ controller }) => controller),
    values: rows.map(({ value }) => value),
    channels: rows.map(() => 10),
  }
}

const noControls = { lanes: [], ticks: [], controllers: [], values: [], channels: [] }

/** A port that remembers what it was given, and works out by itself what could be heard. */
export class RecordingPort implements Port {
  readonly given: { note: Strike; cutAt: number }[] = []
  readonly moves: Move[] = []

  move(control: Move) {
    this.moves.push(control)
  }

  strike(note: Strike): Sounding {
    const entry = { note, cutAt: Infinity }
    this.given.push(entry)
    return { cut: (time) => (entry.cutAt = Math.min(entry.cutAt, time)) }
  }

  /** Voice, start and end in seconds of everything that sounded at all. */
  heard(): { voice: string; time: number; end: number }[] {
    return this.given
      .filter(({ note, cutAt }) => cutAt > note.time)
      .map(({ note, cutAt }) => ({ voice: note.voice.id, time: note.time, end: Math.min(note.end, cutAt) }))
  }
}

/** An open piece of these lanes, without a server. */
export function takePiece(...lanes: Lane[]) {
  const piece = usePiece()
  piece.take({ id: 1, revision: 1, attempt: '', stands_at: 1, changed_at: '', document: aPiece(...lanes) }, [
    { number: 1, label: 'New piece', at: '', heard: false, name: '' },
  ])
  return piece
}

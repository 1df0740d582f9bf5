/** The tape: what sounded. What was given to the audio clock and withdrawn before it started is not on it. */
import type { PlacedRow, Schemas, Score } from '@/api/client'
import type { Ready } from './prepared'
import { barFrom, barOf, barsBefore, shareOfBar } from './time'

/** A note in ticks from the pattern's start. Its length changes if it is silenced while it sounds. */
export interface TapeNote {
  readonly laneId: string
  readonly lane: string
  readonly ink: number
  readonly start: number
  /** When it began, in seconds on the audio clock. */
  readonly time: number
  length: number
  readonly pitch: number
  readonly velocity: number
  readonly channel: number
  /** By how many semitones its sound is higher, while the MIDI note stays; none: on tapes from before there were any. */
  readonly tune?: number
  /** Where its step stands, in ticks: a note that strays belongs to the bar of its step. */
  readonly straight: number
}

/** A controller's value on the tape, sent at `tick`. */
export interface TapeControl {
  readonly laneId: string
  readonly lane: string
  readonly ink: number
  readonly tick: number
  readonly controller: number
  readonly value: number
  readonly channel: number
}

/** From one start, of play or of another pattern, to the stop after it. `score`, `dice` as they stood last while it played. */
export interface TapeStretch {
  readonly patternId: string
  readonly fromTick: number
  /** Whether it took over from the stretch before it, without a break. */
  readonly follows?: boolean
  nowTick: number
  score: Score
  dice: number
  row: PlacedRow | null
  barTicks: number
  /** Where the tempo last changed while it played; null: nowhere. */
  tempoChangedAt: number | null
  notes: TapeNote[]
  controls: TapeControl[]
  /** What did not sound: the machine was too busy to give it to the audio clock in time. */
  leftOut: Ready[]
}

/** What plays: a pattern's score and dice; `row`: of the running order, if that plays. */
export interface Playing {
  readonly score: Score
  readonly dice: number
  readonly patternId: string
  readonly row?: PlacedRow | null
}

/** A bar that is on show: of which stretch, which bar of the pattern, and how much of it has sounded (0-1). */
export interface TapeBar {
  readonly stretch: TapeStretch
  readonly bar: number
  readonly sounded: number
}

export const BARS_ON_TAPE = 16
const BARS_REMEMBERED = 80 // more than may be recorded ahead

export class Tape {
  stretches: TapeStretch[] = []

  begin(fromTick: number, barTicks: number, playing: Playing, follows = false): TapeStretch {
    const { score, dice, patternId, row = null } = playing
    const stretch: TapeStretch = {
      patternId, fromTick, follows, nowTick: fromTick, score, dice, row, barTicks, tempoChangedAt: null, notes: [], controls: [], leftOut: [],
    } // prettier-ignore
    this.stretches = [...this.stretches.filter(({ nowTick, fromTick }) => nowTick > fromTick), stretch].slice(
      -BARS_ON_TAPE,
    )
    return stretch
  }

  /** The bars that sounded last, the newest last. */
  lastBars(count = BARS_ON_TAPE): TapeBar[] {
    const bars: TapeBar[] = []
    for (const stretch of [...this.stretches].reverse()) {
      const { barTicks, fromTick, nowTick } = stretch
      for (let bar = barFrom(nowTick, barTicks) - 1; bar >= barOf(fromTick, barTicks); bar--) {
        if (bars.length === count) return bars.reverse()
        bars.push({ stretch, bar, sounded: shareOfBar(nowTick, bar, barTicks) })
      }
    }
    return bars.reverse()
  }

  /** What led to a stretch without a break, the oldest first, and itself. */
  runOf(stretch: TapeStretch): readonly TapeStretch[] {
    const upTo = this.stretches.slice(0, this.stretches.indexOf(stretch) + 1)
    return upTo.slice(upTo.findLastIndex(({ follows }) => !follows))
  }
  /** The stretch to keep the last bars of: the newest of which a whole bar has sounded, or the newest. */
  newestWhole(): TapeStretch | undefined {
    return this.stretches.findLast(hasWholeBar) ?? this.stretches.at(-1)
  }
}
/** Whether a whole bar has sounded. */
export const hasWholeBar = ({ nowTick, fromTick, barTicks }: TapeStretch): boolean =>
  barOf(nowTick, barTicks) > barFrom(fromTick, barTicks)

/** Forget what left the tape long ago. */
export function trim(stretch: TapeStretch) {
  const oldest = barsBefore(stretch.nowTick, BARS_REMEMBERED, stretch.barTicks)
  if (stretch.controls.length > 4000) stretch.controls = stretch.controls.filter(({ tick }) => tick >= oldest)
  if (stretch.leftOut.length > 2000) stretch.leftOut = stretch.leftOut.filter(({ start }) => start >= oldest)
  if (stretch.notes.length > 2000 && (stretch.notes[1000]?.start ?? Infinity) < oldest) {
    stretch.notes = stretch.notes.filter((note) => note.start >= oldest)
  }
}

type Track = Schemas['TapeTrack']

/** What the server keeps from: the notes of a stretch that had begun by now, lane by lane. */
export function tapeOf(stretch: TapeStretch): Schemas['Tape'] {
  const now = Math.floor(stretch.nowTick)
  // In the order of the lanes; lanes that are gone by now come after them.
  const tracks = new Map<string, Track | null>(stretch.score.lanes.map(({ id }) => [id, null]))
  const trackOf = ({ laneId, lane, ink, channel }: TapeNote | TapeControl): Track => {
    const track = tracks.get(laneId) ?? {
      lane, lane_id: laneId, ink, channel, sound: null, notes: [], controls: [], moved: [], straights: [], late: [], late_straights: [],
    } // prettier-ignore
    tracks.set(laneId, track)
    return track
  }
  // What cannot be is left out: one bad row keeps nobody from keeping the others.
  const areWhole = (row: readonly number[]) => row.every((one) => Number.isSafeInteger(one) && one >= 0)
  const rowOf = ({
    start,
    length,
    pitch,
    velocity,
    straight,
    tune = 0,
  }: Ready | TapeNote): Track['notes'][number] | null =>
    start < now && areWhole([start, length, pitch, velocity, straight])
      ? [start, length, pitch, velocity, tune]
      : null
  for (const note of stretch.notes) {
    const row = rowOf(note)
    if (!row) continue
    const track = trackOf(note)
    track.notes.push(row)
    track.straights.push(note.straight)
  }
  const lanes = new Map(stretch.score.lanes.map((lane) => [lane.id, lane]))
  for (const ready of stretch.leftOut) {
    const [row, lane] = [rowOf(ready), lanes.get(ready.laneId)]
    if (!row || !lane) continue
    const track = trackOf({ ...ready, lane: lane.name, ink: lane.ink, time: 0 })
    track.late.push(row)
    track.late_straights.push(ready.straight)
  }
  for (const { tick, controller, value, ...of } of stretch.controls) {
    const row: [number, number, number] = [Math.round(tick), controller, value]
    if (tick < now && areWhole(row)) trackOf({ tick, controller, value, ...of }).controls.push(row)
  }
  return {
    from_tick: Math.ceil(stretch.fromTick),
    now_tick: now,
    meter: stretch.score.meter,
    tracks: [...tracks.values()].filter((track) => track !== null),
  }
}

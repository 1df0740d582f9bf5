/** The notes that were given to a port and may still sound: withdrawn, cut, and what of them the tape holds. */
import type { Lane } from '@/api/client'
import type { Clock, Port, Sounding } from './port'
import type { Ready } from './prepared'
import type { TapeNote, TapeStretch } from './tape'
import { lengthUntil, type TimeLine } from './time'

/** A stretch of tape and where it lies in time. `began`: ticks from when play was pressed to its tick 0. */
export interface Run {
  readonly line: TimeLine
  readonly stretch: TapeStretch
  readonly began: number
}
interface Committed {
  readonly note: TapeNote
  readonly port: string
  readonly sounding: Sounding
  readonly run: Run
}

export class LiveNotes {
  #live: Committed[] = []

  constructor(
    private readonly clock: Clock,
    private readonly port: Port,
  ) {}

  /** Give a note of `lane` to the port, and the tape. */
  commit(next: Ready, run: Run, lane: Lane) {
    if (!next.voice) return
    const time = run.line.timeOf(next.start)
    // One pitch at a time, also across an edit: the engine sees to it within one score.
    const before = ({ note, run: its }: Committed) => its !== run || note.start < next.start
    this.#cut(
      this.#live.filter((one) => isSamePitch(one, next) && before(one)),
      time,
    )
    const { voice, semitones, tone, level, pan, room, port, ...written } = next
    const note: TapeNote = { ...written, time, lane: lane.name, ink: lane.ink }
    const { pitch, velocity, channel } = next
    const end = run.line.timeOf(next.start + next.length)
    const settings = { part: lane.id, port, voice, semitones, tone, level, pan, room }
    const sounding = this.port.strike({ ...settings, pitch, velocity, channel, time, end })
    this.#live.push({ note, port, sounding, run })
    run.stretch.notes.push(note)
  }

  /** Take back what has not begun by now, of the notes that are meant; what sounds is cut and ends there on the tape. */
  withdraw(isMeant: (note: TapeNote) => boolean) {
    const now = this.clock.now()
    const meant = this.#live.filter(({ note }) => isMeant(note))
    const unheard = new Set(meant.filter(({ note, run }) => run.line.timeOf(note.start) >= now))
    this.#cut(meant, now)
    for (const { run } of unheard) {
      const goneNotes = new Set([...unheard].filter((one) => one.run === run).map(({ note }) => note))
      run.stretch.notes = run.stretch.notes.filter((note) => !goneNotes.has(note))
    }
    this.#live = this.#live.filter((one) => !unheard.has(one))
  }

  /** Forget what was over a second ago. */
  forgetOld() {
    const before = this.clock.now() - 1
    this.#live = this.#live.filter(({ note, run }) => run.line.timeOf(note.start + note.length) > before)
  }
  forget() {
    this.#live = []
  }

  /** The latest straight time among the notes of a run; -1 where there are none. */
  latestOf(run: Run): number {
    const own = this.#live.filter((one) => one.run === run)
    return Math.max(-1, ...own.map(({ note }) => note.straight))
  }

  /** Notes of a stretch which began within the last `seconds`. */
  begunWithin(seconds: number, stretch: TapeStretch | undefined): TapeNote[] {
    const now = this.clock.now()
    const began = ({ note, run }: Committed) => run.line.timeOf(note.start)
    return this.#live
      .filter((one) => one.run.stretch === stretch && began(one) > now - seconds && began(one) <= now)
      .map(({ note }) => note)
  }

  #cut(live: readonly Committed[], time: number) {
    for (const { note, sounding, run } of live) {
      const tick = run.line.tickAt(time)
      if (note.start + note.length <= tick) continue
      sounding.cut(time)
      note.length = lengthUntil(note.start, tick)
    }
  }
}

const isSamePitch = ({ note, port }: Committed, next: Ready) =>
  note.pitch === next.pitch && note.channel === next.channel && port === next.port

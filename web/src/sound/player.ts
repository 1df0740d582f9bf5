/**
 * The player: gives notes to a port just ahead of the audio clock, and keeps the tape of what sounded.
 *
 * It knows no clock of its own: `tick` is called often, and `clock` says what time it is. Notes are fetched bars ahead
 * and committed at most HORIZON seconds ahead; what is not yet committed is replaced when the score changes.
 */
import type { Rendering, Score } from '@/api/client'
import { Tape, trim, type TapeNote, type TapeStretch } from '@/tape/tape'
import type { Clock, Port, Sounding } from './port'
import { secondsPerTick, ticksOfBar, TimeLine } from './time'

/** Seconds that notes are committed ahead. */
export const HORIZON = 0.1
/** Seconds of music that one question to the engine covers, and that should lie ready. */
const FETCHED_AHEAD = 4
const MOST_BARS = 32
/** Seconds of delay after which a note is better left out than played late. */
const TOO_LATE = 0.5
const LEAD_IN = 0.06

export interface Question {
  readonly score: Score
  readonly dice: number
  readonly window: { readonly first_bar: number; readonly bars: number }
}
/** Asks the engine. Rejects if it cannot be asked; the player then asks again. */
export type Ask = (question: Question) => Promise<Rendering>

interface Ready {
  readonly laneId: string
  readonly start: number
  readonly length: number
  readonly pitch: number
  readonly velocity: number
  readonly channel: number
}
interface Committed {
  readonly note: TapeNote
  readonly sounding: Sounding
}

export class Player {
  readonly tape = new Tape()
  #line: TimeLine | null = null
  #stretch: TapeStretch | null = null
  #score: Score | null = null
  #dice = 0
  /** Notes not yet committed, in order of time, and the tick up to which all are here. */
  #ready: Ready[] = []
  #readyUpTo = 0
  #committedUpTo = 0
  #live: Committed[] = []
  #isAsking = false
  /** Counts starts and stops, so that an answer that comes too late for one is dropped. */
  #run = 0
  /** Counts scores; `#takenVersion` is that of the notes that lie ready. */
  #version = 0
  #takenVersion = 0
  /** Lanes silenced by hand at some version: answers to older questions still hold their notes. */
  #hushed: { version: number; isSilenced: (laneId: string) => boolean } = {
    version: 0,
    isSilenced: () => false,
  }

  constructor(
    private readonly clock: Clock,
    private readonly port: Port,
    private readonly ask: Ask,
  ) {}

  get isPlaying(): boolean {
    return this.#line !== null
  }

  /** Where the music is, in ticks; where it stopped, when it does not play. */
  get nowTick(): number {
    if (this.#line && this.#stretch)
      return Math.max(this.#stretch.fromTick, this.#line.tickAt(this.clock.now()))
    return this.#stretch?.nowTick ?? 0
  }

  /** Notes that are sounding now or began within the last `seconds`. */
  soundingWithin(seconds: number): TapeNote[] {
    if (!this.#line) return []
    const now = this.clock.now()
    const [from, to] = [this.#line.tickAt(now - seconds), this.#line.tickAt(now)]
    return this.#live.map(({ note }) => note).filter(({ start }) => start > from && start <= to)
  }

  /** Play from `fromTick` on. Waits for the first notes before the clock starts to count. */
  async play(score: Score, dice: number, fromTick = 0): Promise<void> {
    this.stop()
    this.#score = score
    this.#dice = dice
    const run = this.#run
    const version = ++this.#version
    const first = await this.#askFrom(fromTick)
    if (run !== this.#run) return
    this.#line = new TimeLine(fromTick, this.clock.now() + LEAD_IN, score.tempo)
    this.#stretch = this.tape.begin(fromTick, first.bar_ticks, this.#score, this.#dice)
    this.#committedUpTo = this.#readyUpTo = fromTick
    this.#take(first, version)
    this.tick()
  }

  /** Stop: what has not begun is withdrawn, what sounds is cut and ends there on the tape. */
  stop() {
    this.#run++
    if (!this.#line || !this.#stretch) return
    const now = this.clock.now()
    this.#stretch.nowTick = this.nowTick
    this.#withdraw(() => true, now)
    this.#line = null
    this.#ready = []
    this.#live = []
  }

  /** The score or the dice changed: what is not committed will be replaced by the engine's answer. */
  change(score: Score, dice: number) {
    if (this.#score === score && this.#dice === dice) return
    const tempo = this.#score?.tempo
    this.#score = score
    this.#dice = dice
    this.#version++
    if (!this.#line || !this.#stretch) return
    this.#stretch.score = score
    this.#stretch.dice = dice
    if (score.tempo !== tempo) {
      const from = Math.max(this.#committedUpTo, this.nowTick)
      this.#line.changeTempo(from, score.tempo)
      this.#stretch.tempoChangedAt = from
    }
    this.#fetch()
  }

  /** Silence lanes at once: withdraw what has not begun, cut what sounds, drop what lies ready. */
  silence(isSilenced: (laneId: string) => boolean) {
    this.#hushed = { version: this.#version, isSilenced }
    this.#withdraw(({ laneId }) => isSilenced(laneId), this.clock.now())
    this.#ready = this.#ready.filter(({ laneId }) => !isSilenced(laneId))
  }

  /** Commit what is due within the horizon and see that enough lies ready. To be called several times a horizon. */
  tick() {
    const line = this.#line
    const stretch = this.#stretch
    if (!line || !stretch) return
    const now = this.clock.now()
    stretch.nowTick = Math.max(stretch.fromTick, line.tickAt(now))
    const upTo = Math.min(line.tickAt(now + HORIZON), this.#readyUpTo)
    let due = 0
    for (let next = this.#ready[due]; next && next.start < upTo; next = this.#ready[++due]) {
      if (line.timeOf(next.start) > now - TOO_LATE) this.#commit(next, line, stretch)
    }
    this.#ready.splice(0, due)
    this.#committedUpTo = Math.max(this.#committedUpTo, upTo)
    this.#live = this.#live.filter(({ note }) => line.timeOf(note.start + note.length) > now - 1)
    trim(stretch)
    this.#fetch()
  }

  #commit(next: Ready, line: TimeLine, stretch: TapeStretch) {
    const lane = this.#score?.lanes.find(({ id }) => id === next.laneId)
    if (!lane) return
    const time = line.timeOf(next.start)
    // One pitch at a time, also across an edit: the engine sees to it within one score.
    this.#cut(
      this.#live.filter(({ note }) => isSamePitch(note, next) && note.start < next.start),
      next.start,
      time,
    )
    const note: TapeNote = { ...next, lane: lane.name, ink: lane.ink }
    const sounding = this.port.strike({
      voice: lane.voice,
      pitch: next.pitch,
      velocity: next.velocity,
      channel: next.channel,
      time,
      end: line.timeOf(next.start + next.length),
    })
    this.#live.push({ note, sounding })
    stretch.notes.push(note)
  }

  #withdraw(isMeant: (note: TapeNote) => boolean, now: number) {
    const line = this.#line
    const stretch = this.#stretch
    if (!line || !stretch) return
    const nowTick = line.tickAt(now)
    const meant = this.#live.filter(({ note }) => isMeant(note))
    const unheard = new Set(meant.filter(({ note }) => note.start >= nowTick).map(({ note }) => note))
    this.#cut(meant, nowTick, now)
    stretch.notes = stretch.notes.filter((note) => !unheard.has(note))
    this.#live = this.#live.filter(({ note }) => !unheard.has(note))
  }

  #cut(live: Committed[], tick: number, time: number) {
    for (const { note, sounding } of live) {
      if (note.start + note.length <= tick) continue
      sounding.cut(time)
      note.length = Math.max(1, Math.round(tick - note.start))
    }
  }

  /** Ask the engine for what is missing: all from now on if the score changed, else the bars that follow. */
  #fetch() {
    const line = this.#line
    if (!line || !this.#score || this.#isAsking) return
    const isOld = this.#takenVersion !== this.#version
    const needed = this.#committedUpTo + FETCHED_AHEAD / secondsPerTick(this.#score.tempo)
    if (!isOld && this.#readyUpTo >= needed) return
    const version = this.#version
    this.#isAsking = true
    this.#askFrom(isOld ? this.#committedUpTo : this.#readyUpTo).then(
      (rendering) => {
        this.#isAsking = false
        if (this.#line !== line) return
        this.#take(rendering, version)
        this.#fetch()
      },
      () => {
        this.#isAsking = false // `tick` asks again; what lies ready goes on playing
      },
    )
  }

  #askFrom(tick: number): Promise<Rendering> {
    const score = this.#score as Score
    const barTicks = ticksOfBar(score.meter)
    const bars = Math.min(MOST_BARS, Math.ceil(FETCHED_AHEAD / secondsPerTick(score.tempo) / barTicks) + 1)
    return this.ask({ score, dice: this.#dice, window: { first_bar: Math.floor(tick / barTicks), bars } })
  }

  #take({ events, lanes, end_tick, bar_ticks }: Rendering, version: number) {
    const isNew = this.#takenVersion !== version
    this.#takenVersion = version
    const from = isNew ? this.#committedUpTo : this.#readyUpTo
    const { isSilenced } = this.#hushed
    const isHushed = (laneId: string) => version < this.#hushed.version && isSilenced(laneId)
    const fresh = events.starts
      .map((start, at) => ({
        laneId: lanes[events.lanes[at] as number]?.id ?? '',
        start,
        length: events.lengths[at] as number,
        pitch: events.pitches[at] as number,
        velocity: events.velocities[at] as number,
        channel: events.channels[at] as number,
      }))
      .filter(({ start, laneId }) => start >= from && !isHushed(laneId))
    this.#ready = isNew ? fresh : [...this.#ready, ...fresh]
    this.#readyUpTo = end_tick
    if (this.#stretch) this.#stretch.barTicks = bar_ticks
  }
}

const isSamePitch = (one: { pitch: number; channel: number }, other: { pitch: number; channel: number }) =>
  one.pitch === other.pitch && one.channel === other.channel

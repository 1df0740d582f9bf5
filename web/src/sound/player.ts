/**
 * The player: gives notes to a port just ahead of the audio clock, and keeps the tape of what sounded.
 *
 * It knows no clock of its own: `tick` is called often, and `clock` says what time it is. Notes are fetched bars ahead
 * and committed at most HORIZON seconds ahead; what is not yet committed is replaced when the score changes. Another pattern
 * takes over at the moment that was asked for, on a time line and a stretch of tape of its own.
 */
import type { Lane, PlacedRow, Score } from '@/api/client'
import { Tape, trim, type Playing, type TapeNote } from './tape'
import { Controllers } from './controllers'
import { countIn } from './countIn'
import { PendingKeys } from './pendingKeys'
import { LiveNotes, type Run } from './live'
import type { Clock, Port, Sounding } from './port'
import type { ReadyControl, Sounds } from './prepared'
import { FETCHED_AHEAD, Requests, type Engine } from './requests'
import { IN_TIME, isSamePlace, Succession, type How, type Place } from './succession'
import { Supply, type Bars, type ReadyItems } from './supply'
import {
  barOf,
  barAfter,
  barFrom,
  beatsOf,
  elapsed,
  sinceThen,
  startOfBar,
  steered,
  tickAfter,
  ticksOfBeat,
  TimeLine,
} from './time'

/** Seconds that notes are committed ahead. */
export const HORIZON = 0.1
/** Bars that lie ready in the end. */
const READY_BARS = 64
/** Seconds before the end of what lies ready at which the last pass loops, where no more can be had. */
const LOOP_AHEAD = 1
/** Seconds of delay after which a note is better left out than played late. */
const TOO_LATE = 0.5
/** Seconds before a note is due at which it is committed, answer or not. */
const LATEST = 0.025
/** Seconds after which a key counts: what the engine has to answer in, beside what is committed already. */
const KEY_SECONDS = 0.115
/** Seconds from the start of playing to the first tick. */
export const LEAD_IN = 0.06

/** Music of a pattern that lies ready. */
export interface ReadyMusic {
  readonly patternId: string
  readonly barTicks: number
  readonly known: ReadyItems
}
export class Player {
  #run: Run | null = null
  /** The run that another pattern has followed, until the moment at which it does. */
  #leaving: (Run & { readonly endTick: number }) | null = null
  readonly #succession: Succession
  /** The tick at which what plays is over; null: it goes on. */
  #ends: number | null = null
  /** Whether that is later than the engine says, since what follows could not be had. */
  #isOverdue = false
  /** What follows where `playing` ends; null: nothing, it stops there. */
  following: (playing: Playing) => Playing | null = () => null
  /** Told when another pattern, or row, takes over, as it is committed, and where what played ends; when all is over. */
  onTurn: ((playing: Playing, endTick: number) => void) | null = null
  onOver: (() => void) | null = null
  /** Told when it begins to play, and when it stops. */
  onPlaying: ((isPlaying: boolean) => void) | null = null
  #playing: Playing | null = null
  /** Where the last run stopped. */
  #stoppedAt = 0
  /** What is not yet committed. */
  readonly #supply = new Supply()
  readonly #controllers: Controllers
  #committedUpTo = 0
  readonly #live: LiveNotes
  #clicks: Sounding[] = []
  /** From which tick on what changed last is heard, where that is a beat to come; and the lanes that are heard until then. */
  #joinAt = 0
  #lanesBefore: readonly Lane[] = []
  readonly #pendingKeys = new PendingKeys()
  /** Told when the answer to a change of keys did not come in time: what counted from `late` on does so from `tick`. */
  onLateKeys: ((late: number, tick: number) => void) | null = null
  readonly #requests: Requests
  /** Bars of the pattern that loop meanwhile; null: none yet. */
  loopingBars: Bars | null = null
  /** The version at which each lane was silenced by hand last: answers to older questions still hold its notes. */
  #hushed = new Map<string, number>()

  constructor(
    private readonly clock: Clock,
    private readonly port: Port,
    engine: Engine,
    readonly tape = new Tape(),
  ) {
    this.#live = new LiveNotes(clock, port)
    this.#controllers = new Controllers(clock, port)
    this.#requests = new Requests(clock, engine)
    this.#succession = new Succession(this.#requests.askSwitch, (playing) => this.#requests.ask(0, playing))
  }

  set onRefused(tell: (score: Score, reason: unknown) => void) {
    this.#requests.onRefused = tell
  }
  /** Why nothing can be had of the engine, while nothing can; null: it answers. */
  get trouble(): unknown {
    return this.#requests.trouble
  }

  get isPlaying(): boolean {
    return this.#run !== null
  }

  /** The pattern that is heard; '' when none is. */
  get patternId(): string {
    return (this.#leaving ?? this.#run)?.stretch.patternId ?? ''
  }

  /** The pattern that a hand wants next and that waits for its moment; '' when none does. */
  get waitingFor(): string {
    if (this.#succession.isByHand) return this.#succession.playing?.patternId ?? ''
    return this.#leaving ? (this.#run?.stretch.patternId ?? '') : ''
  }

  /** The row of the running order that is heard; null where none is. */
  get row(): PlacedRow | null {
    return (this.#leaving ?? this.#run)?.stretch.row ?? null
  }

  /** Where the music is, in ticks; where it stopped, when it does not play. */
  get nowTick(): number {
    const run = this.#leaving ?? this.#run
    if (!run) return this.#stoppedAt
    return Math.max(run.stretch.fromTick, run.line.tickAt(this.clock.now()))
  }

  /** The tick up to which all has been committed, or left out because it came too late. */
  get committedUpTo(): number {
    return this.#committedUpTo
  }

  /** Notes of the pattern that is heard which began within the last `seconds`. */
  soundingWithin(seconds: number): TapeNote[] {
    return this.#live.begunWithin(seconds, (this.#leaving ?? this.#run)?.stretch)
  }

  /** Play from `fromTick` on, after `barsBefore` bars of clicks. Waits for the first notes before the clock starts to count. */
  async play(playing: Playing, fromTick = 0, barsBefore = 0): Promise<void> {
    this.stop()
    this.#playing = playing
    const { session } = this.#requests
    let asked: Playing, first: Sounds, version: number
    do {
      asked = this.#playing
      this.#requests.change()
      version = this.#requests.version
      first = await this.#requests.ask(fromTick, asked)
      if (session !== this.#requests.session) return
    } while (!isSamePlace(asked, this.#playing)) // another pattern was chosen meanwhile: it is what begins
    const { tempo } = this.#playing.score // as it is, not as it was asked
    const begin = this.clock.now() + LEAD_IN
    const { times, end, inBar } = beatsOf(barsBefore, first.bar_ticks, first.beat_ticks, tempo)
    this.#begin(new TimeLine(fromTick, begin + end, tempo), first, fromTick, 0)
    const clicks = times.map((time) => begin + time)
    this.#clicks = countIn(this.port, playing.score.kit, clicks, inBar)
    this.#requests.takenVersion = version
    this.tick()
  }

  /** What lies ready of what plays, to be played where the engine is away. */
  ready(): ReadyMusic | null {
    const [run, playing] = [this.#run, this.#playing]
    if (!run || !playing || this.#requests.isBehind || this.#ends !== null) return null
    const { patternId } = playing
    return { patternId, barTicks: run.stretch.barTicks, known: this.#supply.known() }
  }
  /** Play what lay ready of the pattern before, from its first whole bar on: nothing else can be had, for `trouble`. */
  playReady(playing: Playing, { barTicks, known }: ReadyMusic, trouble: unknown) {
    this.stop()
    this.#playing = playing
    const fromTick = startOfBar(barFrom(known.from, barTicks), barTicks)
    const line = new TimeLine(fromTick, this.clock.now() + LEAD_IN, playing.score.tempo)
    this.#start(line, { bar_ticks: barTicks, ends: null }, fromTick, 0)
    this.#supply.beginWith(known, fromTick)
    this.#requests.trouble = trouble
    this.tick()
  }

  /** Stop: what has not begun is withdrawn, what sounds is cut and ends there on the tape. */
  stop() {
    this.#requests.begin()
    if (!this.#run) return
    const now = this.clock.now()
    this.#clicks.forEach((click) => click.cut(now))
    this.#clicks = []
    this.#stoppedAt = this.nowTick
    this.#tell(now)
    // What was due by now and had not been committed, on a busy machine or while hands were waited for, sounds no more.
    const { stretch } = this.#run
    stretch.leftOut.push(...this.#supply.notesBefore(stretch.nowTick))
    this.#live.withdraw(() => true)
    this.#run = this.#leaving = null
    this.loopingBars = null
    this.#succession.forget()
    this.#supply.clear()
    this.#live.forget()
    this.onPlaying?.(false)
  }

  /**
   * Score or dice changed: what is not committed is replaced by the engine's answer. Another pattern, or row, takes over
   * as `how` says.
   */
  change(playing: Playing, how?: How) {
    const now = this.#playing
    if (!now || !this.#run) {
      this.#playing = playing
      this.#requests.change()
      return
    }
    if (!isSamePlace(playing, now)) {
      this.#succession.want(playing, this.#asLeaving(now, this.#run), how ?? this.#succession.howFor(playing))
      return
    }
    this.#succession.forget()
    if (!this.#isJoining) this.#withdrawGone(now.score, playing.score)
    if (now.score === playing.score && now.dice === playing.dice && now.row === playing.row) return
    this.#playing = playing
    this.#requests.change()
    const { line, stretch } = this.#run
    stretch.score = playing.score
    stretch.dice = playing.dice
    stretch.row = playing.row ?? null
    if (playing.score.tempo !== now.score.tempo) {
      const from = Math.max(this.#committedUpTo, line.tickAt(this.clock.now()), this.#joinAt)
      line.changeTempo(from, playing.score.tempo)
      stretch.tempoChangedAt = from
    }
    this.#fetch()
  }

  /** The same at the next beat: until then what played plays on, with the lanes that it had. */
  changeAtBeat(playing: Playing) {
    const [now, run] = [this.#playing, this.#run]
    if (!now || !run || !isSamePlace(playing, now)) return this.change(playing)
    const beat = ticksOfBeat(now.score.meter)
    const soon = Math.max(this.#committedUpTo, run.line.tickAt(this.clock.now() + IN_TIME))
    // Of several within one beat the last one counts; what played before them all plays until then.
    if (this.#joinAt <= soon) {
      this.#joinAt = startOfBar(barFrom(soon, beat), beat) // the next beat
      this.#lanesBefore = now.score.lanes
    }
    this.change(playing)
  }

  /** What lanes sound that are not there any more ends with them. */
  #withdrawGone(before: Score, after: Score) {
    if (before.lanes === after.lanes) return
    const left = new Set(after.lanes.map(({ id }) => id))
    if (before.lanes.every(({ id }) => left.has(id))) return
    this.#withdraw((laneId) => !left.has(laneId))
  }

  /** Silence lanes at once: withdraw what has not begun, cut what sounds, drop what lies ready. */
  silence(isSilenced: (laneId: string) => boolean) {
    const lanes = this.#playing?.score.lanes ?? []
    for (const { id } of lanes) if (isSilenced(id)) this.#hushed.set(id, this.#requests.version)
    this.#withdraw(isSilenced)
  }
  #withdraw(isMeant: (laneId: string) => boolean) {
    this.#live.withdraw(({ laneId }) => isMeant(laneId))
    this.#supply.drop(isMeant)
  }

  /**
   * From which tick on a key counts that was struck or let go at `pressed` seconds (now, if it is not said): the first of
   * which nothing is committed yet. Until the engine has answered to what keys change, nothing from there on is
   * committed, so that what sounds is what renders. Keys keep their distance, however late the page gets to them.
   */
  keyTick(pressed = this.clock.now()): number {
    if (!this.#run) return 0
    const soon = this.#run.line.tickAt(Math.min(pressed, this.clock.now()) + KEY_SECONDS)
    const free = Math.max(soon, this.#committedUpTo, this.#live.latestOf(this.#run) + 1)
    return this.#pendingKeys.take(free, this.#requests.version + 1)
  }

  /** Ticks from when play was pressed, at `seconds` on the clock: they count on over patterns. Null: nothing plays. */
  elapsedAt(seconds: number): number | null {
    const leaving = this.#leaving
    const run = leaving && leaving.line.tickAt(seconds) < leaving.endTick ? leaving : this.#run
    return run && elapsed(run.began, run.line.tickAt(seconds), 0)
  }
  /** When so many ticks have passed since play was pressed, in seconds on the clock. */
  timeOfElapsed(ticks: number): number {
    const leaving = this.#leaving
    const run = leaving && sinceThen(ticks, leaving.began) < leaving.endTick ? leaving : this.#run
    return run ? run.line.timeOf(sinceThen(ticks, run.began)) : this.clock.now()
  }
  /** Where a clock from outside says the music is, in ticks since play: go a little faster or slower until it is there. */
  steer(ticks: number, seconds: number) {
    const run = this.#run
    const at = this.elapsedAt(seconds)
    if (!run || at === null || this.#leaving) return
    const from = Math.max(this.#committedUpTo, run.line.tickAt(this.clock.now()))
    run.line.changeTempo(from, steered(run.stretch.score.tempo, ticks, at))
  }

  /** Where the music was at `seconds` on the clock, in ticks. */
  tickAt(seconds: number): number {
    const run = this.#leaving ?? this.#run
    return run ? Math.max(run.stretch.fromTick, run.line.tickAt(seconds)) : this.#stoppedAt
  }

  /** An answer that is not here in time: what keys change comes later then. */
  #releaseHold(now: number) {
    const run = this.#run
    if (!this.#pendingKeys.isHeld || !run || run.line.timeOf(this.#pendingKeys.from) > now + LATEST) return
    const before = this.#requests.version
    this.#pendingKeys.release(
      (seconds) => run.line.tickAt(now + seconds),
      (late, tick) => {
        this.onLateKeys?.(late, tick)
        if (this.#requests.version === before) return null
        this.#requests.forgetOlder() // they know the keys where they count no longer
        return this.#requests.version
      },
    )
  }

  /** Commit what is due within the horizon and see that enough lies ready. To be called several times a horizon. */
  tick() {
    if (!this.#run) return
    const now = this.clock.now()
    this.#tell(now)
    const { line } = this.#run
    this.#releaseHold(now)
    const upTo = Math.min(line.tickAt(now + HORIZON), this.#supply.upTo, this.#pendingKeys.from)
    this.#lookAhead(line.tickAt(now))
    if (!this.#run) return
    this.#loopLastPass(now)
    const place = this.#leaving ? null : this.#succession.place
    // All that leads there is to be committed first, if it comes in time.
    const isReady = place && (upTo >= place.tick || line.timeOf(place.tick) <= now + LATEST)
    if (place && isReady && line.tickAt(now + HORIZON) >= place.tick) {
      this.#commitUpTo(Math.min(upTo, place.tick), now)
      this.#switch(place)
      this.tick()
      return
    }
    this.#commitUpTo(upTo, now)
    this.#live.forgetOld()
    trim(this.#run.stretch)
    this.#fetch()
  }

  #begin(line: TimeLine, first: Sounds, fromTick: number, began: number) {
    this.#start(line, first, fromTick, began)
    this.#supply.add(first, fromTick, () => false)
    this.#hold(first, () => false)
  }
  #start(line: TimeLine, first: Pick<Sounds, 'bar_ticks' | 'ends'>, fromTick: number, began: number) {
    const isFollowing = this.#leaving !== null
    const stretch = this.tape.begin(fromTick, first.bar_ticks, this.#playing as Playing, isFollowing)
    const isFirst = this.#run === null
    this.#run = { line, stretch, began }
    if (isFirst) this.onPlaying?.(true)
    this.#ends = first.ends
    this.#isOverdue = false
    this.loopingBars = null
    this.#joinAt = 0
    this.#lanesBefore = []
    this.#committedUpTo = fromTick
    this.#pendingKeys.begin()
    this.#supply.begin(fromTick)
    this.#controllers.begin(!this.#leaving)
  }

  /** Let stretches know how far they have come; a run that another has followed ends where that begins. */
  #tell(now: number) {
    const leaving = this.#leaving
    if (leaving) {
      const tick = leaving.line.tickAt(now)
      leaving.stretch.nowTick = Math.min(leaving.endTick, tick)
      if (tick < leaving.endTick) return
      this.#leaving = null
    }
    if (!this.#run) return
    const { line, stretch } = this.#run
    stretch.nowTick = Math.max(stretch.fromTick, Math.min(line.tickAt(now), this.#ends ?? Infinity))
  }

  // ---- Another pattern ----

  #asLeaving(playing: Playing, run: Run) {
    return {
      playing,
      began: run.began,
      committed: () => this.#committedUpTo,
      soon: (seconds: number) =>
        Math.ceil(Math.max(this.#committedUpTo, run.line.tickAt(this.clock.now() + seconds))),
    }
  }

  /** What plays ends before long: see that what follows is ready, and stop where nothing does. */
  #lookAhead(nowTick: number) {
    const { playing } = this.#succession
    const now = this.#playing as Playing
    if (this.#ends === null || this.#leaving) return
    if (!playing && tickAfter(nowTick, FETCHED_AHEAD, now.score.tempo) >= this.#ends) {
      const next = this.following(now)
      if (next) this.#succession.follow(next, this.#ends)
      else if (nowTick >= this.#ends) this.onOver?.()
    }
  }
  /** What follows was changed, or is another now, or what plays ends elsewhere: what is known of it stays until there is more. */
  followAnew() {
    const { playing, isByHand } = this.#succession
    if (!playing || isByHand || !this.#playing) return
    const next = this.#ends === null ? null : this.following(this.#playing)
    if (next && this.#ends !== null) this.#succession.follow(next, this.#ends)
    else this.#succession.forget()
  }

  #switch({ tick, fromTick, first }: Place) {
    const playing = this.#succession.playing as Playing
    const run = this.#run as Run
    this.#succession.forget()
    this.#leaving = { ...run, endTick: tick }
    this.#playing = playing
    this.#requests.change()
    this.#requests.takeNewest()
    const began = elapsed(run.began, tick, fromTick)
    this.#begin(new TimeLine(fromTick, run.line.timeOf(tick), playing.score.tempo), first, fromTick, began)
    this.onTurn?.(playing, tick)
  }

  // ---- Committing ----

  #commitUpTo(upTo: number, now: number) {
    const run = this.#run as Run
    const all = [...this.#lanesBefore, ...(this.#playing?.score.lanes ?? [])]
    const lanes = new Map(all.map((lane) => [lane.id, lane]))
    for (const next of this.#supply.take(upTo)) {
      const lane = lanes.get(next.laneId)
      if ('tick' in next) this.#move(next, run, lane)
      else if (run.line.timeOf(next.start) <= now - TOO_LATE) run.stretch.leftOut.push(next)
      else if (lane) this.#live.commit(next, run, lane)
    }
    this.#committedUpTo = Math.max(this.#committedUpTo, upTo)
    if (!this.#isJoining) this.#lanesBefore = []
  }
  get #isJoining(): boolean {
    return this.#joinAt > this.#committedUpTo
  }

  #move(next: ReadyControl, { line, stretch }: Run, lane: Lane | undefined) {
    if (!lane) return
    this.#controllers.move(next, line.timeOf(next.tick))
    stretch.controls.push({ ...next, lane: lane.name, ink: lane.ink })
  }

  // ---- Where the engine cannot be asked ----

  /** What lies ready is nearly all given, and no more can be had: the last pass loops until more can. */
  #loopLastPass(now: number) {
    const run = this.#run as Run
    const { score, row } = this.#playing as Playing
    const isNearlyOver =
      run.line.tickAt(now + LOOP_AHEAD) >= Math.min(this.#supply.upTo, this.#ends ?? Infinity)
    if (!this.trouble || !isNearlyOver || this.#leaving || this.#succession.place) return
    const isAtEnd = this.#ends !== null && this.#supply.upTo >= this.#ends
    if (isAtEnd && !this.following(this.#playing as Playing)) return
    this.loopingBars =
      this.#supply.repeatLastPass(row?.row.bars ?? score.bars, run.stretch.barTicks) ?? this.loopingBars
    if (isAtEnd) this.#endAt(this.#supply.upTo)
  }
  /** What follows a row of the order waits: it follows after what is heard instead. */
  #endAt(tick: number) {
    this.#isOverdue = true
    this.#ends = tick
    this.followAnew()
  }

  /** Whether what was changed last is still to be heard. */
  get isBehind(): boolean {
    return this.#run !== null && this.#requests.isBehind
  }
  /** How many whole bars lie ready. */
  get readyBars(): number {
    const run = this.#run
    return run ? barOf(this.#supply.upTo - this.#committedUpTo, run.stretch.barTicks) : 0
  }
  /** It may answer again: ask at once. */
  askAgain() {
    this.#requests.askAgain()
    this.#fetch()
  }

  // ---- Asking the engine ----

  /** Ask the engine for what is missing: all from now on if the score changed, else the bars that follow. */
  #fetch() {
    const run = this.#run
    if (!run || !this.#playing || !this.#requests.mayAsk) return
    const isAnew = this.#requests.isBehind || (this.loopingBars !== null && !this.#isOverdue)
    const needed = tickAfter(this.#committedUpTo, FETCHED_AHEAD, this.#playing.score.tempo)
    const isNeeded = isAnew || this.#supply.upTo < Math.min(needed, this.#ends ?? Infinity)
    if (!isNeeded && !this.#wantsMore(run)) return
    const from = isAnew ? this.#committedUpTo : this.#supply.upTo
    this.#requests.fetch(from, this.#playing, isNeeded, (sounds, version) => {
      if (this.#run !== run) return
      const { isHeld } = this.#pendingKeys
      this.#take(sounds, version)
      if (isHeld) this.tick() // what was held back is due
      this.#fetch()
    })
  }
  /** Whether, now that all is quiet, more should lie ready than is needed: for as long as the server may be away. */
  #wantsMore({ stretch }: Run): boolean {
    const ready = barAfter(this.#committedUpTo, READY_BARS, stretch.barTicks)
    return this.#requests.isQuiet && this.#supply.upTo < Math.min(ready, this.#ends ?? Infinity)
  }

  #take(rendering: Sounds, version: number) {
    const isNew = this.#requests.takenVersion !== version || this.loopingBars !== null
    this.loopingBars = null
    this.#requests.takenVersion = version
    this.#pendingKeys.answered(version, !this.#requests.isBehind)
    const isHushed = (laneId: string) => version < (this.#hushed.get(laneId) ?? 0)
    const from = Math.max(this.#committedUpTo, this.#joinAt)
    if (isNew) this.#supply.clear(from)
    this.#supply.add(rendering, isNew ? from : this.#supply.upTo, isHushed)
    if (isNew) this.#hold(rendering, isHushed)
    if (this.#run) this.#run.stretch.barTicks = rendering.bar_ticks
    if (this.#isOverdue) return this.#endAt(barAfter(this.#committedUpTo, 1, rendering.bar_ticks))
    if (this.#ends === rendering.ends) return
    this.#ends = rendering.ends
    this.followAnew()
  }

  /** Before anything else, give controllers what they hold where the commitments end, if they have it not already. */
  #hold(sounds: Sounds, isHushed: (laneId: string) => boolean) {
    const missing = this.#controllers.missing(sounds, this.#committedUpTo)
    this.#supply.addFirst(missing.filter(({ laneId }) => !isHushed(laneId)))
    this.#controllers.choose(sounds)
  }
}

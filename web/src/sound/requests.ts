/** What the player asks the engine: for which version of the music, when it may ask, and what became of it. */
import type { PlacedRow, Score } from '@/api/client'
import { isWaiting, pauseAfter } from '@/api/policy'
import type { Clock } from './port'
import type { Sounds } from './prepared'
import type { AskSwitch } from './succession'
import type { Playing } from './tape'
import { barOf, barsLasting, ticksOfBar } from './time'

/** Seconds of music that one question covers, and that should lie ready before anything else is done. */
export const FETCHED_AHEAD = 4
const MOST_BARS = 32
/** Bars that one question covers which nobody waits for; seconds of quiet before it is asked. */
const BARS_IN_QUIET = 16
const QUIET = 1
const MOST_ASKED = 3

export interface Question {
  readonly score: Score
  readonly dice: number
  readonly row?: PlacedRow | null | undefined
  readonly window: { readonly first_bar: number; readonly bars: number }
}
/** Asks the engine. Rejects if it cannot be asked; the player then asks again, later each time. */
export type Ask = (question: Question) => Promise<Sounds>
export interface Engine {
  readonly sounds: Ask
  readonly switches: AskSwitch
}

export class Requests {
  /** Why nothing can be had of the engine, while nothing can; null: it answers. */
  trouble: unknown = null
  /** Told what refuses a score, once for each score; nothing is asked about that again. */
  onRefused: ((score: Score, reason: unknown) => void) | null = null
  /** Counts what is to be heard, with each change of it. */
  version = 0
  /** The version of the music that lies ready. */
  takenVersion = 0
  /** Answers to versions before this one are of no use any more. */
  #oldest = 0
  /** Versions that the engine is being asked about. */
  #pending = new Set<number>()
  #refused = 0
  /** The version of which more than is needed cannot be had at once. */
  #tooMuch = 0
  #changedAt = 0
  /** When the engine may be asked again, after it could not be, and how often it could not. */
  #askAgainAt = 0
  #failures = 0
  /** Counts starts and stops, so that an answer from before the last of them is ignored. */
  session = 0

  constructor(
    private readonly clock: Clock,
    private readonly engine: Engine,
  ) {}

  /** Playing starts, or stops. */
  begin() {
    this.session++
    this.trouble = null
    this.#failures = this.#askAgainAt = 0
  }
  change() {
    this.version++
    this.#changedAt = this.clock.now()
  }
  /** What lies ready is of the version that is wanted now. */
  takeNewest() {
    this.takenVersion = this.version
  }
  /** Answers that are still under way are of no use: they do not know what changed last. */
  forgetOlder() {
    this.#oldest = this.version
  }
  get isBehind(): boolean {
    return this.takenVersion !== this.version
  }
  /** It may answer again: whatever is asked next is asked at once. */
  askAgain() {
    this.#askAgainAt = 0
  }

  /** Whether a question about the music as it is now may be asked. */
  get mayAsk(): boolean {
    // A newer state need not wait for the answer about an older one; three questions at once are enough.
    const isFree = !this.#pending.has(this.version) && this.#pending.size < MOST_ASKED
    return isFree && this.clock.now() >= this.#askAgainAt && this.#refused !== this.version
  }
  /** Whether there is time to ask for more than is needed. */
  get isQuiet(): boolean {
    const hasRested = this.clock.now() >= this.#changedAt + QUIET
    return hasRested && !this.#pending.size && this.#tooMuch !== this.version
  }

  /** The bars from the one that `tick` lies in. */
  ask(tick: number, { score, dice, row = null }: Playing, bars = barsAhead(score)): Promise<Sounds> {
    const window = { first_bar: barOf(tick, ticksOfBar(score.meter)), bars }
    return this.#heeded(this.engine.sounds({ score, dice, row, window }))
  }
  readonly askSwitch: AskSwitch = (question) => this.#heeded(this.engine.switches(question))

  /**
   * Ask for the bars from `tick` on of what plays now. `isNeeded`: soon; else more of them, as there is time. `take`: told
   * the answer and its version, unless a newer one was taken meanwhile.
   */
  fetch(tick: number, playing: Playing, isNeeded: boolean, take: (sounds: Sounds, version: number) => void) {
    const { version, session } = this
    this.#pending.add(version)
    this.ask(tick, playing, isNeeded ? undefined : BARS_IN_QUIET).then(
      (sounds) => {
        this.#pending.delete(version)
        if (version >= Math.max(this.takenVersion, this.#oldest)) take(sounds, version)
      },
      (reason: unknown) => {
        this.#pending.delete(version)
        if (session !== this.session || isWaiting(reason)) return // what lies ready goes on playing
        if (!isNeeded) this.#tooMuch = version
        else if (version === this.version) this.#refuse(playing.score, reason)
      },
    )
  }
  #refuse(score: Score, reason: unknown) {
    this.#refused = this.version
    this.trouble = reason
    this.onRefused?.(score, reason)
  }

  /** An answer, and what it says of whether the engine can be asked. */
  async #heeded<Answer>(asked: Promise<Answer>): Promise<Answer> {
    const session = this.session
    try {
      const answer = await asked
      this.#failures = 0
      if (this.#refused !== this.version) this.trouble = null
      return answer
    } catch (reason) {
      if (isWaiting(reason) && session === this.session) {
        this.trouble = reason
        this.#askAgainAt = this.clock.now() + pauseAfter(reason, ++this.#failures) / 1000
      }
      throw reason
    }
  }
}

/** How many bars are asked for at once. */
export const barsAhead = ({ tempo, meter }: Score): number =>
  Math.min(MOST_BARS, barsLasting(FETCHED_AHEAD, tempo, ticksOfBar(meter)) + 1)

/** What takes over from a pattern that plays: when, from where, and its first notes. The engine says all three. */
import type { Schemas } from '@/api/client'
import { pauseAfter } from '@/api/policy'
import type { Playing } from './tape'
import type { Sounds } from './prepared'

/** How one pattern follows another: at which moment, and whether it begins or carries on. */
export interface How {
  readonly at: NonNullable<Schemas['Switching']['at']>
  readonly to: NonNullable<Schemas['Switching']['to']>
}
export const AT_THE_BAR: How = { at: 'bar', to: 'begin' }

export interface SwitchQuestion extends How {
  readonly leaving: Playing
  readonly coming: Playing
  /** From which tick of the leaving pattern on it may give way. */
  readonly tick: number
  /** Ticks from when play was pressed to the start of the leaving pattern. */
  readonly began: number
}
export type AskSwitch = (question: SwitchQuestion) => Promise<Schemas['Switched']>

/** At `tick` of what plays, what comes plays from its `fromTick` on: `first` are its first notes. */
export interface Place {
  readonly tick: number
  readonly fromTick: number
  readonly first: Sounds
}
interface Coming {
  readonly playing: Playing
  readonly isByHand: boolean
  readonly how: How
  place: Place | null
}
/** What the player knows of the pattern that plays. */
interface Leaving {
  readonly playing: Playing
  readonly began: number
  /** The first tick that is not committed yet, and one that an answer should be in time for. */
  committed(): number
  soon(seconds: number): number
}

/** Seconds from a press to the first moment at which another pattern may begin. */
export const IN_TIME = 0.12

export class Succession {
  #coming: Coming | null = null

  constructor(
    private readonly askSwitch: AskSwitch,
    private readonly askFirst: (playing: Playing) => Promise<Sounds>,
  ) {}

  /** What comes; null: nothing does. */
  get playing(): Playing | null {
    return this.#coming?.playing ?? null
  }
  get isByHand(): boolean {
    return this.#coming?.isByHand ?? false
  }
  forget() {
    this.#coming = null
  }
  /** As it was wanted, if it waits already. */
  howFor(playing: Playing): How {
    return this.#coming && isSamePlace(this.#coming.playing, playing) ? this.#coming.how : AT_THE_BAR
  }

  /** A hand wants `playing` next, at the moment that `how` says. */
  want(playing: Playing, leaving: Leaving, how: How, seconds = IN_TIME) {
    const coming: Coming = { playing, isByHand: true, how, place: this.#placeOf(playing) }
    this.#coming = coming
    const question = {
      ...how,
      leaving: leaving.playing,
      coming: playing,
      tick: leaving.soon(seconds),
      began: leaving.began,
    }
    this.askSwitch(question).then(
      ({ tick, from_tick, sounds }) => {
        this.#failures = 0
        if (this.#coming !== coming) return
        // Too late for that moment: it is the next one then, with more time to answer.
        if (tick < leaving.committed()) this.want(playing, leaving, how, 2 * seconds)
        else coming.place = { tick, fromTick: from_tick, first: sounds }
      },
      (reason: unknown) => this.#again(coming, reason, () => this.want(playing, leaving, how, seconds)),
    )
  }

  /** `playing` follows where what plays ends, at `tick`: from its first step on. */
  follow(playing: Playing, tick: number) {
    const knownPlace = this.#placeOf(playing)
    const place = knownPlace && { ...knownPlace, tick }
    const coming: Coming = { playing, isByHand: false, how: AT_THE_BAR, place }
    this.#coming = coming
    this.askFirst(playing).then(
      (first) => {
        this.#failures = 0
        if (this.#coming === coming) coming.place = { tick, fromTick: 0, first }
      },
      (reason: unknown) => this.#again(coming, reason, () => this.follow(playing, tick)),
    )
  }

  /** What is known already of the same pattern as it was before an edit: rather that than nothing. */
  #placeOf(playing: Playing): Place | null {
    return this.#coming && isSamePlace(this.#coming.playing, playing) ? this.#coming.place : null
  }
  #failures = 0
  #again(coming: Coming, reason: unknown, ask: () => void) {
    const pause = pauseAfter(reason, ++this.#failures)
    if (this.#coming === coming) setTimeout(() => this.#coming === coming && ask(), pause)
  }

  /** Where what comes takes over, once that is known. */
  get place(): Place | null {
    return this.#coming?.place ?? null
  }
}

/** Whether both are the same pattern, and the same row of the order where it plays one. */
export const isSamePlace = (one: Playing, other: Playing): boolean =>
  one.patternId === other.patternId && one.row?.place === other.row?.place

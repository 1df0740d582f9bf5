/** What lies ready to be given to the ports: notes and controls that the engine has answered, in the order of time. */
import { controlsOf, notesOf, type Ready, type ReadyControl, type Sounds } from './prepared'
import { byTick } from './time'

type IsLane = (laneId: string) => boolean

export class Supply {
  #notes: Ready[] = []
  #controls: ReadyControl[] = []
  /** The tick up to which all is here. */
  upTo = 0

  begin(tick: number) {
    this.clear()
    this.upTo = tick
  }
  clear() {
    this.#notes = []
    this.#controls = []
  }

  /** Add what was answered, from the tick `from` on, but for lanes that are silent. */
  add(sounds: Sounds, from: number, isSilent: IsLane) {
    const controls = controlsOf(sounds.controls, sounds)
    const isWanted = (at: number, laneId: string) => at >= from && !isSilent(laneId)
    this.#controls = [...this.#controls, ...controls.filter(({ tick, laneId }) => isWanted(tick, laneId))]
    this.#notes = [...this.#notes, ...notesOf(sounds).filter(({ start, laneId }) => isWanted(start, laneId))]
    this.upTo = sounds.end_tick
  }
  /** Add controls that come before all others of their tick. */
  addFirst(controls: readonly ReadyControl[]) {
    this.#controls = [...controls, ...this.#controls].sort(byTick)
  }
  drop(isGone: IsLane) {
    this.#notes = this.#notes.filter(({ laneId }) => !isGone(laneId))
    this.#controls = this.#controls.filter(({ laneId }) => !isGone(laneId))
  }

  notesBefore = (tick: number): Ready[] => this.#notes.filter(({ start }) => start < tick)

  /** Take out what begins before `tick`; a controller moves before the note that it is for begins. */
  take(tick: number): (Ready | ReadyControl)[] {
    const controls = splitOff(this.#controls, (one) => one.tick >= tick)
    const notes = splitOff(this.#notes, ({ start }) => start >= tick)
    return [...controls, ...notes].sort((one, other) => beginOf(one) - beginOf(other))
  }
}

const beginOf = (one: Ready | ReadyControl) => ('start' in one ? one.start : one.tick)

function splitOff<One>(all: One[], isLater: (one: One) => boolean): One[] {
  const end = all.findIndex(isLater)
  return all.splice(0, end < 0 ? all.length : end)
}

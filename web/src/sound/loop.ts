/** Plays notes that are known, round and round: a take or a clip. What is played may change at any time, in time. */
import type { Schemas } from '@/api/client'
import { HORIZON, LEAD_IN } from './player'
import { BUILT_IN, type Clock, type Port, type Sounding } from './port'
import { byTick, TimeLine, tuned, wrapped } from './time'

export type PitchSound = Schemas['PitchSound']

export interface LoopTrack {
  readonly lane: string
  readonly channel: number
  /** The name of the port that it plays to; none: the built-in sounds. */
  readonly port?: string | null | undefined
  readonly program?: Schemas['Program'] | null | undefined
  readonly notes: readonly Schemas['Note'][]
  readonly controls: readonly Schemas['Control'][]
  /** What sounds each MIDI note, as the engine says. */
  readonly sounds: Readonly<Record<string, PitchSound>>
}

/** All times in ticks; `tempoChanges`: (tick, tempo) after the beginning. */
export interface Loop {
  readonly lengthTicks: number
  readonly tempo: number
  readonly tempoChanges: readonly (readonly [number, number])[]
  readonly tracks: readonly LoopTrack[]
}

/** A note that was given to the port; `start` counts on from when the loop began to play. */
export interface StruckNote {
  readonly lane: string
  readonly start: number
  readonly length: number
  readonly pitch: number
  readonly velocity: number
  readonly channel: number
}

type Happening = { readonly tick: number; readonly act: (tick: number) => void }
const STRUCK_REMEMBERED = 4000

/** How long one pass lasts, in seconds. */
export function secondsOf({ lengthTicks, tempo, tempoChanges }: Loop): number {
  const line = new TimeLine(0, 0, tempo)
  for (const [tick, changed] of tempoChanges) line.changeTempo(tick, changed)
  return line.timeOf(lengthTicks)
}

export class LoopPlayer {
  /** What was struck since it began, the newest last. */
  struck: StruckNote[] = []
  #line: TimeLine | null = null
  #loop: Loop | null = null
  #happenings: Happening[] = []
  /** Where the present pass began, in ticks since the start; what of it is next; how far all is committed. */
  #passAt = 0
  #next = 0
  #upTo = 0
  #live: { sounding: Sounding; start: number; end: number }[] = []

  constructor(
    private readonly clock: Clock,
    private readonly port: Port,
  ) {}

  get isPlaying(): boolean {
    return this.#line !== null
  }

  /** Where in the loop the music is, in ticks. */
  get nowTick(): number {
    if (!this.#line || !this.#loop) return 0
    const since = Math.max(0, this.#line.tickAt(this.clock.now())) - this.#passAt
    const { lengthTicks } = this.#loop
    return wrapped(since, lengthTicks)
  }

  play(loop: Loop) {
    this.stop()
    this.struck = []
    this.#passAt = this.#next = this.#upTo = 0
    this.#line = new TimeLine(0, this.clock.now() + LEAD_IN, loop.tempo)
    this.#take(loop)
    this.#choose(loop)
    this.tick()
  }

  /** Play another loop from here on: in time, at the same place, if it is as long. */
  change(loop: Loop) {
    if (!this.#line) return
    const place = wrapped(this.#upTo - this.#passAt, loop.lengthTicks)
    this.#passAt = this.#upTo - place
    this.#take(loop)
    this.#next = this.#happenings.findIndex(({ tick }) => tick >= place)
    if (this.#next < 0) this.#next = this.#happenings.length
    const holds = loop.tempoChanges.findLast(([tick]) => tick <= place)?.[1] ?? loop.tempo
    this.#line.changeTempo(this.#upTo, holds)
  }

  /** Stop: what has not begun never sounds, what sounds is cut. */
  stop() {
    const now = this.clock.now()
    for (const { sounding } of this.#live) sounding.cut(now)
    this.#live = []
    this.#line = null
  }

  /** Commit what is due within the horizon. To be called several times a horizon. */
  tick() {
    const [line, loop] = [this.#line, this.#loop]
    if (!line || !loop) return
    const now = this.clock.now()
    for (;;) {
      const next = this.#happenings[this.#next]
      const tick = this.#passAt + (next?.tick ?? loop.lengthTicks)
      if (line.timeOf(tick) > now + HORIZON) break
      this.#upTo = Math.max(this.#upTo, tick)
      if (next) {
        this.#next++
        next.act(tick)
      } else {
        this.#passAt += loop.lengthTicks
        this.#next = 0
      }
    }
    this.#upTo = Math.max(this.#upTo, line.tickAt(now + HORIZON))
    const tick = line.tickAt(now)
    this.#live = this.#live.filter(({ end }) => end > tick)
  }

  #take(loop: Loop) {
    this.#loop = loop
    const tempos = [[0, loop.tempo] as const, ...loop.tempoChanges]
    this.#happenings = [
      ...tempos.map(([tick, tempo]) => ({
        tick,
        act: (at: number) => this.#line?.changeTempo(at, tempo),
      })),
      ...loop.tracks.flatMap((track) => [
        ...track.controls.map(([tick, controller, value]) => ({
          tick,
          act: (at: number) => this.#move(track, controller, value, at),
        })),
        // One that begins after the end was heard late: it sounds in each further time round, never before the first.
        ...track.notes.map((note) => ({
          tick: wrapped(note[0], loop.lengthTicks),
          act: (at: number) => at >= note[0] && this.#strike(track, note, at),
        })),
      ]),
    ].sort(byTick)
  }

  #choose({ tracks }: Loop) {
    const time = this.clock.now()
    for (const { lane, port, channel, program } of tracks)
      if (program) this.port.choose?.({ part: lane, port: port ?? BUILT_IN, channel, program, time })
  }

  #move({ lane, channel, port }: LoopTrack, controller: number, value: number, at: number) {
    const time = Math.max(this.#line?.timeOf(at) ?? 0, this.clock.now())
    this.port.move({ part: lane, port: port ?? BUILT_IN, channel, controller, value, time })
  }

  #strike(track: LoopTrack, [, length, pitch, velocity, tune = 0]: Schemas['Note'], start: number) {
    const sound = track.sounds[pitch]
    const line = this.#line
    if (!sound || !line) return
    const time = line.timeOf(start)
    if (time < this.clock.now() - HORIZON) return
    const sounding = this.port.strike({
      part: track.lane,
      port: track.port ?? BUILT_IN,
      voice: sound.voice,
      semitones: tuned(sound.semitones, tune),
      tone: sound.tone ?? null,
      level: sound.level_db,
      pan: sound.pan,
      room: sound.room,
      pitch,
      velocity,
      channel: track.channel,
      time,
      end: line.timeOf(start + length),
    })
    this.#live.push({ sounding, start, end: start + length })
    this.struck.push({ lane: track.lane, start, length, pitch, velocity, channel: track.channel })
    if (this.struck.length > STRUCK_REMEMBERED) this.struck = this.struck.slice(-STRUCK_REMEMBERED / 2)
  }
}

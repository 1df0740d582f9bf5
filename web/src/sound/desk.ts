/** The built-in sounds as a port: each lane on its own way, one room for all, and a limiter. */
import { releaseOf } from './kit'
import { Part } from './part'
import { soundPitched, TIMBRES } from './pitched'
import type { Move, Port, Sounding, Strike } from './port'
import { room } from './room'
import { soundStruck } from './struck'
import { paceOf, tuned } from './time'

export type BufferOf = (voice: Strike['voice']) => AudioBuffer | null

/** What a voice is made of: its own name where nothing else is said. */
export const soundOf = ({ id, sound }: Strike['voice']) => sound ?? id

const gainOf = (decibels: number) => 10 ** (decibels / 20)
const within = (pan: number) => Math.max(-1, Math.min(1, pan / 100))

export class Desk implements Port {
  readonly output: AudioNode
  readonly #input: GainNode
  readonly #parts = new Map<string, Part>()
  #room: AudioNode | null = null
  /** What sounds, or is to: to be silenced all at once. */
  #sounding: { sounding: Sounding; end: number }[] = []
  #looked = FEWEST

  constructor(
    private readonly context: BaseAudioContext,
    private readonly bufferOf: BufferOf,
  ) {
    this.#input = new GainNode(context, { gain: 0.7 })
    const how = { threshold: -8, ratio: 12, attack: 0.002, release: 0.12 }
    this.output = this.#input.connect(new DynamicsCompressorNode(context, how))
  }

  strike(note: Strike): Sounding {
    const part = this.#part(note.part)
    part.stand(note.room, note.time)
    const sounding = part.look(this.#sound(part, note), note.end)
    this.#sounding.push({ sounding, end: note.end })
    if (this.#sounding.length > this.#looked * 2) this.#forgetOver()
    return sounding
  }

  #sound(part: Part, note: Strike): Sounding {
    const { voice, time, end, pitch } = note
    const loudness = (note.velocity / 127) ** 1.6 * gainOf(note.level + voice.level_db)
    const timbre = note.tone ? TIMBRES[voice.id] : undefined
    const pan = within(note.pan + voice.pan)
    const { shaping } = part
    if (note.tone && timbre) {
      const glide = part.glideTo(pitch, time, end)
      const how = { timbre, tone: note.tone, shaping, glide, pitch, loudness, pan, time, end }
      return soundPitched(this.context, part.input, part.detune, how)
    }
    return soundStruck(this.context, part.input, part.detune, {
      voice,
      buffer: this.bufferOf(voice),
      rate: paceOf(tuned(note.semitones, voice.tune)),
      loudness,
      pan,
      shaping,
      release: releaseOf(soundOf(voice)),
      time,
      end,
    })
  }

  #forgetOver() {
    const over = this.context.currentTime - LONGEST_RELEASE
    this.#sounding = this.#sounding.filter(({ end }) => end > over)
    this.#looked = Math.max(FEWEST, this.#sounding.length)
  }

  move(control: Move) {
    this.#part(control.part).move(control)
  }

  rest() {
    this.#parts.forEach((part) => part.rest(this.context.currentTime))
  }

  silence() {
    this.rest()
    const now = this.context.currentTime
    this.#sounding.forEach(({ sounding }) => sounding.cut(now))
    this.#sounding = []
  }

  #part(name: string): Part {
    const part =
      this.#parts.get(name) ??
      new Part(this.context, this.#input, () => (this.#room ??= room(this.context, this.#input)))
    // In the order in which they were used: those at the front may be of lanes that are gone.
    this.#parts.delete(name)
    this.#parts.set(name, part)
    if (this.#parts.size > MOST_PARTS) this.#leaveOldest()
    return part
  }
  #leaveOldest() {
    const [[name, oldest] = []] = this.#parts
    if (!name || !oldest || oldest.over + LONGEST_RELEASE > this.context.currentTime) return
    oldest.leave()
    this.#parts.delete(name)
  }
}
/** Seconds after its end within which a note may still be heard; how many are looked through at least. */
const LONGEST_RELEASE = 70
const FEWEST = 256
/** Parts that are kept: more than a pattern has lanes. */
export const MOST_PARTS = 160

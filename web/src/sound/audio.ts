/** The browser's audio: its clock, the kit as a port, and a ticker that goes on in hidden tabs. */
import { Context, setContext } from 'tone'

import { Part } from './part'
import { releaseOf, renderKit, voiceOf } from './kit'
import { LoopPlayer, secondsOf, type Loop } from './loop'
import { OwnSounds } from './ownSounds'
import { soundPitched, TIMBRES } from './pitched'
import { HORIZON, LEAD_IN } from './player'
import type { Clock, Move, Port, Sounding, Strike } from './port'
import { paceOf, tuned } from './time'

export interface Audio {
  readonly clock: Clock
  readonly port: Port
  /** Call `act` some thirty times a second, hidden tab or not. */
  onTick(act: () => void): void
  /** Have the musician's own sounds ready that `voices` are made of. @throws Error if one cannot be had. */
  fetchOwn(voices: readonly Strike['voice'][]): Promise<void>
  /** Put every controller where it is when nothing has moved it. */
  rest(): void
  /** Let it sound: browsers wait for a gesture. */
  resume(): Promise<void>
  /** How loud it is now: root mean square of the last few milliseconds. */
  level(): number
  /** One pass of a loop as sound, exactly as long as it is, made faster than it sounds. */
  offline(loop: Loop): Promise<AudioBuffer>
  readonly kit: ReadonlyMap<string, AudioBuffer>
  /** A note of every voice that plays any pitch, by itself. */
  pitched(): Promise<Map<string, Float32Array>>
}

const TICK_SECONDS = 0.03
/** Time constant of a cut, in seconds: short enough to be at once, long enough not to click. */
const CUT = 0.004

/** `latencySeconds`: what the browser may buffer; more is steadier, less is nearer to the hand. */
export async function createAudio(latencySeconds?: number): Promise<Audio> {
  const kit = await renderKit()
  const native = new AudioContext({ latencyHint: latencySeconds ?? 'interactive' })
  const context = new Context({ context: native, updateInterval: TICK_SECONDS, clockSource: 'worker' })
  setContext(context)

  const own = new OwnSounds(native)
  const bufferOf = (voice: Strike['voice']) =>
    own.get(soundOf(voice)) ?? kit.get(voiceOf(soundOf(voice))) ?? null
  const desk = new Desk(native, bufferOf)
  const meter = new AnalyserNode(native, { fftSize: 1024 })
  desk.output.connect(meter).connect(native.destination)

  return {
    clock: { now: () => native.currentTime },
    port: desk,
    onTick: (act) => void context.on('tick', act),
    fetchOwn: (voices) => own.fetch(voices.map(soundOf)),
    rest: () => desk.rest(native.currentTime),
    resume: () => native.resume(),
    level: () => {
      const samples = new Float32Array(meter.fftSize)
      meter.getFloatTimeDomainData(samples)
      return Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length)
    },
    offline: (loop) => renderLoop(loop, bufferOf),
    kit,
    pitched: async () => new Map(await Promise.all(Object.keys(TIMBRES).map(renderPitched))),
  }
}

type BufferOf = (voice: Strike['voice']) => AudioBuffer | null

/** Where everything that sounds comes together: each lane on its own way, and a limiter. */
class Desk implements Port {
  readonly output: AudioNode
  readonly #input: GainNode
  readonly #parts = new Map<string, Part>()

  constructor(
    private readonly context: BaseAudioContext,
    private readonly bufferOf: BufferOf,
  ) {
    this.#input = new GainNode(context, { gain: 0.7 })
    const how = { threshold: -8, ratio: 12, attack: 0.002, release: 0.12 }
    this.output = this.#input.connect(new DynamicsCompressorNode(context, how))
  }

  strike(note: Strike): Sounding {
    return strike(this.context, this.bufferOf(note.voice), this.#part(note.part).input, note)
  }

  move(control: Move) {
    this.#part(control.part).move(control)
  }

  rest(time: number) {
    this.#parts.forEach((part) => part.rest(time))
  }

  #part(name: string): Part {
    const part = this.#parts.get(name) ?? new Part(this.context, this.#input)
    this.#parts.set(name, part)
    return part
  }
}

const SAMPLE_RATE = 44100

/** One pass of a loop, played by the loop's own player on a clock that is stepped. */
async function renderLoop(loop: Loop, bufferOf: BufferOf): Promise<AudioBuffer> {
  const seconds = secondsOf(loop)
  const context = new OfflineAudioContext(2, Math.max(1, Math.round(seconds * SAMPLE_RATE)), SAMPLE_RATE)
  const desk = new Desk(context, bufferOf)
  desk.output.connect(context.destination)
  let now = -LEAD_IN
  const player = new LoopPlayer({ now: () => now }, desk)
  player.play(loop)
  while (now < seconds - HORIZON - 1e-6) {
    now = Math.min(seconds - HORIZON - 1e-6, now + HORIZON)
    player.tick()
  }
  return context.startRendering()
}

const MIDDLE_A = 57
async function renderPitched(voice: string): Promise<[string, Float32Array]> {
  const context = new OfflineAudioContext(1, SAMPLE_RATE / 2, SAMPLE_RATE)
  const timbre = TIMBRES[voice]
  const tone = { brightness: 50, attack_ms: 10, release_ms: 100 }
  if (timbre)
    soundPitched(context, context.destination, {
      timbre,
      tone,
      pitch: MIDDLE_A,
      loudness: 1,
      pan: 0,
      time: 0,
      end: 0.4,
    })
  return [voice, (await context.startRendering()).getChannelData(0)]
}

/** What a voice is made of: its own name where nothing else is said. */
const soundOf = ({ id, sound }: Strike['voice']) => sound ?? id

const gainOf = (decibels: number) => 10 ** (decibels / 20)

function strike(
  context: BaseAudioContext,
  buffer: AudioBuffer | null,
  out: AudioNode,
  note: Strike,
): Sounding {
  const { voice } = note
  const loudness = (note.velocity / 127) ** 1.6 * gainOf(note.level + voice.level_db)
  const timbre = note.tone ? TIMBRES[voice.id] : undefined
  if (note.tone && timbre) {
    const { tone, pitch, time, end } = note
    const pan = Math.max(-1, Math.min(1, note.pan / 100))
    return soundPitched(context, out, { timbre, tone, pitch, loudness, pan, time, end })
  }
  const gain = new GainNode(context, { gain: loudness })
  const rate = paceOf(tuned(note.semitones, voice.tune))
  const source = new AudioBufferSourceNode(context, { buffer, playbackRate: rate })
  const release = releaseOf(soundOf(voice))
  source.connect(gain)
  const pan = Math.max(-1, Math.min(1, (note.pan + voice.pan) / 100))
  const last = pan ? new StereoPannerNode(context, { pan }) : gain
  if (last !== gain) gain.connect(last)
  last.connect(out)
  source.start(note.time)
  // A voice that is made shorter fades before its sound is over.
  const whole = (buffer?.duration ?? 0) / rate
  const short = note.time + (whole * voice.length_percent) / 100
  const end = voice.length_percent < 100 ? Math.min(note.end, short) : note.end
  const fade = voice.length_percent < 100 && end === short ? Math.min(release, whole * 0.15) : release
  gain.gain.setTargetAtTime(0, end, fade / 3)
  source.stop(end + fade * 2)
  source.onended = () => last.disconnect()
  return {
    cut(time) {
      if (time <= note.time) {
        source.stop(0) // before its start: it never sounds
        return
      }
      gain.gain.cancelScheduledValues(time)
      gain.gain.setTargetAtTime(0, time, CUT)
      source.stop(time + CUT * 8)
    },
  }
}

/** The browser's audio: its clock, the kit as a port, and a ticker that goes on in hidden tabs. */
import { Context, setContext } from 'tone'

import { Desk, soundOf, type BufferOf } from './desk'
import { renderKit, voiceOf } from './kit'
import { LoopPlayer, secondsOf, type Loop } from './loop'
import { OwnSounds } from './ownSounds'
import { soundPitched, TIMBRES } from './pitched'
import { HORIZON, LEAD_IN } from './player'
import type { Clock, Strike } from './port'
import { Switchboard } from './switchboard'

export interface Audio {
  readonly clock: Clock
  /** Where all notes go, each to the port that it is for. */
  readonly port: Switchboard
  /** Call `act` some thirty times a second, hidden tab or not. */
  onTick(act: () => void): () => void
  /** Have the musician's own sounds ready that `voices` are made of. @throws Error if one cannot be had. */
  fetchOwn(voices: readonly Strike['voice'][]): Promise<void>
  /** Let it sound: browsers wait for a gesture. */
  resume(): Promise<void>
  /** How loud it is now: root mean square of the last few milliseconds. */
  level(): number
  /** One pass of a loop as sound, exactly as long as it is, made faster than it sounds. */
  offline(loop: Loop): Promise<AudioBuffer>
  readonly kit: ReadonlyMap<string, AudioBuffer>
  /** A stroke of a voice, of a pitched one two that overlap, with controllers where `moves` put them, by themselves. */
  stroke(
    voice: Strike['voice'],
    tone: Strike['tone'],
    moves: readonly (readonly [number, number])[],
  ): Promise<Float32Array>
  /** A note of every voice that plays any pitch, by itself. */
  pitched(): Promise<Map<string, Float32Array>>
}

const TICK_SECONDS = 0.03

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
    port: new Switchboard(desk),
    onTick: (act) => {
      context.on('tick', act)
      return () => void context.off('tick', act)
    },
    fetchOwn: (voices) => own.fetch(voices.map(soundOf)),
    resume: () => native.resume(),
    level: () => {
      const samples = new Float32Array(meter.fftSize)
      meter.getFloatTimeDomainData(samples)
      return Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length)
    },
    offline: (loop) => renderLoop(loop, bufferOf),
    kit,
    stroke: (voice, tone, moves) => renderStroke(voice, tone, moves, bufferOf),
    pitched: async () => new Map(await Promise.all(Object.keys(TIMBRES).map(renderPitched))),
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

/** Half a second of a stroke, and of a second one, seven semitones higher, that begins before the first is over. */
async function renderStroke(
  voice: Strike['voice'],
  tone: Strike['tone'],
  moves: readonly (readonly [number, number])[],
  bufferOf: BufferOf,
): Promise<Float32Array> {
  const context = new OfflineAudioContext(1, SAMPLE_RATE / 2, SAMPLE_RATE)
  const desk = new Desk(context, bufferOf)
  desk.output.connect(context.destination)
  const of = { part: 'stroke', port: '', channel: 10 }
  for (const [controller, value] of moves) desk.move({ ...of, controller, value, time: 0 })
  const note = { ...of, voice, tone, level: 0, pan: 0, room: 0, velocity: 100 }
  desk.strike({ ...note, semitones: 0, pitch: voice.pitch, time: 0.02, end: 0.12 })
  if (tone) desk.strike({ ...note, semitones: 0, pitch: voice.pitch + FIFTH, time: 0.1, end: 0.3 })
  return (await context.startRendering()).getChannelData(0)
}

const FIFTH = 7
const MIDDLE_A = 57
async function renderPitched(voice: string): Promise<[string, Float32Array]> {
  const context = new OfflineAudioContext(1, SAMPLE_RATE / 2, SAMPLE_RATE)
  const timbre = TIMBRES[voice]
  const tone = { brightness: 50, attack_ms: 10, release_ms: 100 }
  if (timbre)
    soundPitched(context, context.destination, new GainNode(context), {
      timbre,
      tone,
      shaping: { timbre: 0, release: 0, attack: 0, decay: 0 },
      glide: null,
      pitch: MIDDLE_A,
      loudness: 1,
      pan: 0,
      time: 0,
      end: 0.4,
    })
  return [voice, (await context.startRendering()).getChannelData(0)]
}

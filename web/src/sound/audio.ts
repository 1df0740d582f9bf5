/** The browser's audio: its clock, the kit as a port, and a ticker that goes on in hidden tabs. */
import { Context, setContext } from 'tone'

import { Channel } from './channel'
import { releaseOf, renderKit, voiceOf } from './kit'
import { OwnSounds } from './ownSounds'
import type { Clock, Port, Sounding, Strike } from './port'

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
  readonly kit: ReadonlyMap<string, AudioBuffer>
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

  const out = new GainNode(native, { gain: 0.7 })
  const channels = new Map<number, Channel>()
  const channelOf = (number: number) => {
    const channel = channels.get(number) ?? new Channel(native, out)
    channels.set(number, channel)
    return channel
  }
  const limiter = new DynamicsCompressorNode(native, {
    threshold: -8,
    ratio: 12,
    attack: 0.002,
    release: 0.12,
  })
  const own = new OwnSounds(native)
  const bufferOf = (voice: Strike['voice']) =>
    own.get(soundOf(voice)) ?? kit.get(voiceOf(soundOf(voice))) ?? null
  const meter = new AnalyserNode(native, { fftSize: 1024 })
  out.connect(limiter).connect(meter).connect(native.destination)

  return {
    clock: { now: () => native.currentTime },
    port: {
      strike: (note) => strike(native, bufferOf(note.voice), channelOf(note.channel).input, note),
      move: (control) => channelOf(control.channel).move(control),
    },
    onTick: (act) => void context.on('tick', act),
    fetchOwn: (voices) => own.fetch(voices.map(soundOf)),
    rest: () => channels.forEach((channel) => channel.rest(native.currentTime)),
    resume: () => native.resume(),
    level: () => {
      const samples = new Float32Array(meter.fftSize)
      meter.getFloatTimeDomainData(samples)
      return Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length)
    },
    kit,
  }
}

/** What a voice is made of: its own name where nothing else is said. */
const soundOf = ({ id, sound }: Strike['voice']) => sound ?? id

const gainOf = (decibels: number) => 10 ** (decibels / 20)

function strike(context: AudioContext, buffer: AudioBuffer | null, out: AudioNode, note: Strike): Sounding {
  const { voice } = note
  const loudness = (note.velocity / 127) ** 1.6 * gainOf(note.level + voice.level_db)
  const gain = new GainNode(context, { gain: loudness })
  const rate = 2 ** ((note.semitones + voice.tune) / 12)
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

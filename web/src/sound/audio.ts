/** The browser's audio: its clock, the kit as a port, and a ticker that goes on in hidden tabs. */
import { Context, setContext } from 'tone'

import { releaseOf, renderKit, voiceOf } from './kit'
import type { Clock, Port, Sounding, Strike } from './port'

export interface Audio {
  readonly clock: Clock
  readonly port: Port
  /** Call `act` some thirty times a second, hidden tab or not. */
  onTick(act: () => void): void
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
  const limiter = new DynamicsCompressorNode(native, {
    threshold: -8,
    ratio: 12,
    attack: 0.002,
    release: 0.12,
  })
  const meter = new AnalyserNode(native, { fftSize: 1024 })
  out.connect(limiter).connect(meter).connect(native.destination)

  return {
    clock: { now: () => native.currentTime },
    port: { strike: (note) => strike(native, kit, out, note) },
    onTick: (act) => void context.on('tick', act),
    resume: () => native.resume(),
    level: () => {
      const samples = new Float32Array(meter.fftSize)
      meter.getFloatTimeDomainData(samples)
      return Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length)
    },
    kit,
  }
}

function strike(
  context: AudioContext,
  kit: ReadonlyMap<string, AudioBuffer>,
  out: AudioNode,
  note: Strike,
): Sounding {
  const buffer = kit.get(voiceOf(note.voice)) ?? null
  const gain = new GainNode(context, { gain: (note.velocity / 127) ** 1.6 })
  const source = new AudioBufferSourceNode(context, { buffer })
  const release = releaseOf(note.voice)
  source.connect(gain).connect(out)
  source.start(note.time)
  gain.gain.setTargetAtTime(0, note.end, release / 3)
  source.stop(note.end + release * 2)
  source.onended = () => gain.disconnect()
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

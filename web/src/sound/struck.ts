/** A voice of the kit, struck: a sound that is known, tuned, trimmed, faded, and shaped by controllers. */
import type { Shaping } from './part'
import type { Sounding, Strike } from './port'

export interface StruckNote {
  readonly voice: Strike['voice']
  readonly buffer: AudioBuffer | null
  /** By how much faster it is played than it is. */
  readonly rate: number
  readonly loudness: number
  /** From -1, left, to 1. */
  readonly pan: number
  readonly shaping: Shaping
  /** Seconds in which it fades once its note has ended. */
  readonly release: number
  readonly time: number
  readonly end: number
}

/** Time constant of a cut, in seconds: short enough to be at once, long enough not to click. */
const CUT = 0.004
const SLOWEST = 0.15 // seconds of attack
const SPIKE = 0.018 // seconds that a sharpened attack lasts
const CURVES = 24
const FOLDED = 257 // points of a curve

const curves = new Map<number, Float32Array<ArrayBuffer>>()
/** What drives a sound: the curve that each of its samples goes through. `drive`: 0 to 1. */
export function driven(drive: number): Float32Array<ArrayBuffer> {
  const step = Math.round(drive * CURVES)
  const cached = curves.get(step)
  if (cached) return cached
  const amount = 1 + (24 * step) / CURVES
  const points = Array.from({ length: FOLDED }, (_, at) => (2 * at) / (FOLDED - 1) - 1)
  const curve = Float32Array.from(points, (x) => Math.tanh(amount * x) / Math.tanh(amount))
  curves.set(step, curve)
  return curve
}
/** Drive above the middle, dull below it; null in the middle. */
export function coloured(context: BaseAudioContext, timbre: number): AudioNode | null {
  if (timbre > 0) return new WaveShaperNode(context, { curve: driven(timbre), oversample: '2x' })
  if (timbre === 0) return null
  return new BiquadFilterNode(context, { type: 'lowpass', frequency: 9000 * 24 ** timbre, Q: 1 - 3 * timbre })
}

const turned = new WeakMap<AudioBuffer, AudioBuffer>()
function reversed(buffer: AudioBuffer, context: BaseAudioContext): AudioBuffer {
  const cached = turned.get(buffer)
  if (cached) return cached
  const { numberOfChannels, length, sampleRate } = buffer
  const back = context.createBuffer(numberOfChannels, length, sampleRate)
  for (let side = 0; side < numberOfChannels; side++)
    back.copyToChannel(buffer.getChannelData(side).slice().reverse(), side)
  turned.set(buffer, back)
  return back
}

/** Let `detune` move the pitch of `source`, until that is over. */
export function connected(
  context: BaseAudioContext,
  detune: AudioNode,
  ...sources: readonly (AudioBufferSourceNode | OscillatorNode)[]
): { end(): void } {
  const bridge = new GainNode(context)
  detune.connect(bridge)
  sources.forEach((source) => bridge.connect(source.detune))
  let isOver = false
  return {
    end() {
      if (!isOver) detune.disconnect(bridge)
      isOver = true
    },
  }
}

export function soundStruck(
  context: BaseAudioContext,
  out: AudioNode,
  detune: AudioNode,
  note: StruckNote,
): Sounding {
  const { voice, rate, loudness, pan, shaping, time } = note
  const buffer = note.buffer && voice.reverse ? reversed(note.buffer, context) : note.buffer
  const source = new AudioBufferSourceNode(context, { buffer, playbackRate: rate })
  const tuning = connected(context, detune, source)
  const gain = new GainNode(context, { gain: loudness })
  const shape = new GainNode(context)
  const colour = coloured(context, shaping.timbre)
  source.connect(shape)
  if (colour) shape.connect(colour).connect(gain)
  else shape.connect(gain)
  const last = pan ? new StereoPannerNode(context, { pan }) : gain
  if (last !== gain) gain.connect(last)
  last.connect(out)

  // What of the sound is heard: trimmed at its beginning, shortened, faded there and at its end.
  const long = buffer?.duration ?? 0
  const from = (long * voice.start_percent) / 100
  const whole = Math.min(long - from, (long * voice.length_percent) / 100) / rate
  source.start(time, from)
  shapeStroke(shape.gain, shaping, time, whole, voice.fade_in_ms / 1000)
  const release = note.release * 8 ** shaping.release
  const isTrimmed = voice.length_percent < 100 || voice.fade_out_ms > 0
  const fade = voice.fade_out_ms ? voice.fade_out_ms / 1000 : Math.min(note.release, whole * 0.15)
  const over = time + whole
  if (isTrimmed) {
    gain.gain.setValueAtTime(loudness, Math.max(time, over - fade))
    gain.gain.linearRampToValueAtTime(0, Math.max(time + 0.002, over))
  }
  let ends = note.end
  const end = (at: number, constant: number) => {
    // What has faded, or fades by itself, is left to that.
    if (isTrimmed && at >= over - fade) return source.stop(over + 0.01)
    gain.gain.cancelScheduledValues(at)
    gain.gain.setTargetAtTime(0, at, constant)
    source.stop(at + constant * 8)
  }
  end(note.end, release / 3)
  source.onended = () => {
    tuning.end()
    last.disconnect()
  }
  return {
    cut(at) {
      if (at <= time) return source.stop(0) // before its start: it never sounds
      end(at, CUT)
    },
    letGo(at) {
      if (at <= ends) return
      ends = at
      end(at, release / 3)
    },
    holdOn() {
      if (isTrimmed) return
      gain.gain.cancelScheduledValues(note.end - 0.001)
      source.stop(time + long / rate + 1)
    },
  }
}

/** Attack and decay: slower or sharper, longer or shorter than the sound has them by itself. */
function shapeStroke(gain: AudioParam, shaping: Shaping, time: number, whole: number, fadeIn: number) {
  const attack = fadeIn + (shaping.attack > 0 ? SLOWEST * shaping.attack ** 2 : 0)
  if (attack > 0) {
    gain.setValueAtTime(0.0001, time)
    gain.linearRampToValueAtTime(1, time + attack)
  } else if (shaping.attack < 0) {
    gain.setValueAtTime(1 - 2 * shaping.attack, time)
    gain.setTargetAtTime(1, time + 0.001, SPIKE / 3)
  }
  if (shaping.decay < 0) gain.setTargetAtTime(0, time + attack + 0.004, 0.35 * whole * 12 ** shaping.decay)
  if (shaping.decay > 0) {
    gain.setValueAtTime(1, time + Math.max(attack, 0.004))
    gain.exponentialRampToValueAtTime(1 + 11 * shaping.decay, time + Math.max(0.05, whole))
  }
}

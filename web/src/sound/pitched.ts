/** The pitched voices: each a few oscillators and a filter, built for every note and gone with it. */

import type { Shaping } from './part'
import type { Sounding } from './port'
import { coloured, connected } from './struck'

/** How a pitched voice is set. `brightness` in %. */
export interface Tone {
  readonly brightness: number
  readonly attack_ms: number
  readonly release_ms: number
}

/** One sounding part. `ratio`: of the note's frequency; `decay`: seconds to fade, none while the note is held. */
interface Partial {
  readonly ratio: number
  readonly gain: number
  readonly wave?: OscillatorType
  readonly cents?: number
  readonly decay?: number
}

/**
 * `opens`: up to which multiple of the note's frequency it sounds, at no brightness and at all of it. `sweep`: how many
 * times as far it is open as it begins, and in how many seconds it closes. `decay`, `sustain`: of the note as a whole.
 * `bend`: cents by which it begins higher, and seconds until it is in tune. `sways`: hertz and depth of a slow swell.
 */
interface Timbre {
  readonly partials: readonly Partial[]
  readonly gain: number
  readonly opens: readonly [number, number]
  readonly resonance?: number
  readonly sweep?: readonly [times: number, seconds: number]
  readonly decay?: number
  readonly sustain?: number
  readonly bend?: readonly [cents: number, seconds: number]
  readonly sways?: readonly [hertz: number, depth: number]
}

export const TIMBRES: Readonly<Record<string, Timbre>> = {
  // A reed in a dark pipe: buzzing, steady.
  'low-reed': {
    partials: [
      { ratio: 1, gain: 0.6, wave: 'sawtooth' },
      { ratio: 1, gain: 0.4, wave: 'square', cents: 7 },
      { ratio: 0.5, gain: 0.35 },
    ],
    gain: 0.34,
    opens: [1.6, 26],
    resonance: 3,
    sweep: [1.8, 0.12],
    decay: 0.4,
    sustain: 0.75,
  },
  // A tube struck on the water: its overtones are no multiples, and it bends into tune.
  buoy: {
    partials: [
      { ratio: 1, gain: 1, decay: 1.7 },
      { ratio: 2.76, gain: 0.42, decay: 0.8 },
      { ratio: 5.4, gain: 0.24, decay: 0.3 },
      { ratio: 8.93, gain: 0.1, decay: 0.12 },
    ],
    gain: 0.4,
    opens: [2, 20],
    bend: [28, 0.09],
  },
  // Several horns, not quite together.
  foghorn: {
    partials: [
      { ratio: 1, gain: 0.5, wave: 'sawtooth', cents: -11 },
      { ratio: 1, gain: 0.5, wave: 'sawtooth', cents: 9 },
      { ratio: 1.5, gain: 0.16, wave: 'sawtooth', cents: 3 },
      { ratio: 0.5, gain: 0.4, wave: 'triangle' },
    ],
    gain: 0.26,
    opens: [1.2, 12],
    sweep: [0.4, 0.5],
    decay: 2,
    sustain: 0.85,
    sways: [3.1, 0.12],
  },
  // A lamp behind glass: warm, plucked.
  lantern: {
    partials: [
      { ratio: 1, gain: 0.8, wave: 'triangle' },
      { ratio: 2, gain: 0.26 },
      { ratio: 3.01, gain: 0.12, decay: 0.2 },
    ],
    gain: 0.42,
    opens: [1.5, 22],
    sweep: [2.2, 0.18],
    decay: 0.5,
    sustain: 0.18,
  },
  // The rim of a glass: clear, long, swaying a little.
  'glass-harbour': {
    partials: [
      { ratio: 1, gain: 0.8 },
      { ratio: 2, gain: 0.3, cents: 4 },
      { ratio: 4.02, gain: 0.14 },
      { ratio: 6.3, gain: 0.05, decay: 0.6 },
    ],
    gain: 0.32,
    opens: [2, 30],
    decay: 1.4,
    sustain: 0.7,
    sways: [5.2, 0.22],
  },
  // A taut wire, plucked near its end: thin and snapping.
  halyard: {
    partials: [
      { ratio: 1, gain: 0.55, wave: 'sawtooth', decay: 0.9 },
      { ratio: 1.004, gain: 0.45, wave: 'sawtooth', decay: 0.7 },
      { ratio: 7, gain: 0.1, decay: 0.08 },
    ],
    gain: 0.34,
    opens: [1.4, 34],
    resonance: 5,
    sweep: [5, 0.14],
  },
  // Round and plain.
  undertow: {
    partials: [
      { ratio: 1, gain: 1 },
      { ratio: 2, gain: 0.14, wave: 'triangle' },
    ],
    gain: 0.5,
    opens: [1.5, 10],
    decay: 0.9,
    sustain: 0.7,
    bend: [40, 0.03],
  },
}

const CUT = 0.006 // seconds, as a time constant: at once, without a click
const HIGHEST = 18_000
const SLOWEST = 0.4 // seconds that a slower attack adds at most
const HELD = 60 // seconds that the pedal holds a note at most
const centsOf = (from: number, to: number) => 100 * (from - to)

export interface PitchedNote {
  readonly timbre: Timbre
  readonly tone: Tone
  readonly shaping: Shaping
  /** The pitch that it glides from, and in how many seconds. */
  readonly glide: { readonly from: number; readonly seconds: number } | null
  /** MIDI note number. */
  readonly pitch: number
  /** 0 to 1 and above: how loud. */
  readonly loudness: number
  /** From -1, left, to 1. */
  readonly pan: number
  readonly time: number
  readonly end: number
}

/** Sound a note into `out`; `detune` moves its pitch, in cents. */
export function soundPitched(
  context: BaseAudioContext,
  out: AudioNode,
  detune: AudioNode,
  { timbre, tone, shaping, glide, pitch, loudness, pan, time, end }: PitchedNote,
): Sounding {
  const hertz = 440 * 2 ** ((pitch - 69) / 12)
  const slower = shaping.attack > 0 ? SLOWEST * shaping.attack ** 2 : 0
  const attack = Math.max(0.001, (tone.attack_ms / 1000) * 6 ** shaping.attack + slower)
  const release = Math.max(0.005, (tone.release_ms / 1000) * 8 ** shaping.release)
  const lasting = 6 ** shaping.decay
  const last = end + release

  const envelope = new GainNode(context, { gain: 0 })
  const peak = loudness * timbre.gain
  const sustain = timbre.sustain ?? 1
  envelope.gain.setValueAtTime(0, time)
  envelope.gain.linearRampToValueAtTime(peak, time + attack)
  if (timbre.decay) envelope.gain.setTargetAtTime(peak * sustain, time + attack, (timbre.decay * lasting) / 3)
  else if (shaping.decay < 0) envelope.gain.setTargetAtTime(peak / 8, time + attack, lasting / 3)
  envelope.gain.setTargetAtTime(0, Math.max(end, time + Math.min(attack, 0.02)), release / 4)
  const outlet = pan ? new StereoPannerNode(context, { pan }) : envelope
  if (outlet !== envelope) envelope.connect(outlet)
  outlet.connect(out)

  const [least, most] = timbre.opens
  const open = Math.min(HIGHEST, hertz * least * (most / least) ** (tone.brightness / 100))
  const filter = new BiquadFilterNode(context, {
    type: 'lowpass',
    frequency: open,
    Q: (timbre.resonance ?? 0.7) + 9 * Math.max(0, shaping.timbre),
  })
  if (timbre.sweep) {
    const [times, seconds] = timbre.sweep
    filter.frequency.setValueAtTime(Math.min(HIGHEST, open * times), time)
    filter.frequency.setTargetAtTime(open, time, (seconds * lasting) / 2)
  }
  const colour = coloured(context, shaping.timbre)
  if (colour) filter.connect(colour).connect(envelope)
  else filter.connect(envelope)

  const sources: OscillatorNode[] = []
  const pitched: OscillatorNode[] = []
  const begin = (source: OscillatorNode) => {
    source.start(time)
    source.stop(last)
    sources.push(source)
  }
  for (const { ratio, gain, wave = 'sine', cents = 0, decay } of timbre.partials) {
    if (hertz * ratio > HIGHEST) continue // beyond hearing, and what the audio can make
    const source = new OscillatorNode(context, { type: wave, frequency: hertz * ratio, detune: cents })
    if (glide) {
      source.detune.setValueAtTime(cents + centsOf(glide.from, pitch), time)
      source.detune.linearRampToValueAtTime(cents, time + glide.seconds)
    } else if (timbre.bend) {
      source.detune.setValueAtTime(cents + timbre.bend[0], time)
      source.detune.linearRampToValueAtTime(cents, time + timbre.bend[1])
    }
    const level = new GainNode(context, { gain })
    if (decay) level.gain.setTargetAtTime(0, time + attack, (decay * lasting) / 3)
    source.connect(level).connect(filter)
    begin(source)
    pitched.push(source)
  }
  if (timbre.sways) {
    const [rate, depth] = timbre.sways
    const sway = new OscillatorNode(context, { frequency: rate })
    const amount = new GainNode(context, { gain: depth * peak })
    sway.connect(amount).connect(envelope.gain)
    begin(sway)
  }
  const tuning = connected(context, detune, ...pitched)
  const [first] = sources
  if (first)
    first.onended = () => {
      tuning.end()
      outlet.disconnect()
    }

  const fade = (at: number, constant: number, stop: number) => {
    envelope.gain.cancelScheduledValues(at)
    envelope.gain.setTargetAtTime(0, at, constant)
    sources.forEach((source) => source.stop(stop))
  }
  return {
    cut: (at) => {
      if (at > time) return fade(at, CUT, at + CUT * 8)
      outlet.disconnect() // before its start: it never sounds
      sources.forEach((source) => source.stop(0))
    },
    letGo: (at) => fade(at, release / 4, at + release * 1.5),
    holdOn() {
      envelope.gain.cancelScheduledValues(Math.max(time + attack, end - 0.001))
      sources.forEach((source) => source.stop(end + HELD))
    },
  }
}

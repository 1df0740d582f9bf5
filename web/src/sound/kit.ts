/** The Dockside kit: twelve percussion voices, each synthesised once into a buffer. */
import {
  AMSynth, Filter, FMSynth, FrequencyEnvelope, MembraneSynth, MetalSynth, NoiseSynth, Offline, Oscillator, Synth, type ToneAudioNode,
} from 'tone' // prettier-ignore

/** Builds a voice's nodes into `out` and plays it once, at time 0. */
interface Voice {
  readonly seconds: number
  /** Seconds in which it fades once its note has ended: how much it rings. */
  readonly release: number
  readonly play: (out: ToneAudioNode) => void
}

const struck = (decay: number, attack = 0.001) => ({ attack, decay, sustain: 0, release: 0.01 })

/** Noise through one filter: the stuff of most of a quay's sounds. */
function noise(
  out: ToneAudioNode,
  band: BiquadFilterType,
  hertz: number,
  q: number,
  decay: number,
  at = 0,
  attack = 0.001,
) {
  const filter = new Filter({ type: band, frequency: hertz, Q: q }).connect(out)
  new NoiseSynth({ noise: { type: 'white' }, envelope: struck(decay, attack) })
    .connect(filter)
    .triggerAttackRelease(decay, at)
}

function drop(out: ToneAudioNode, note: string, octaves: number, pitchDecay: number, decay: number) {
  new MembraneSynth({ octaves, pitchDecay, envelope: struck(decay) })
    .connect(out)
    .triggerAttackRelease(note, decay, 0)
}

export const voices: Readonly<Record<string, Voice>> = {
  // A bollard taking the rope: low, round, short.
  thud: { seconds: 0.8, release: 0.2, play: (out) => drop(out, 'A0', 5, 0.05, 0.5) },
  // A dropped chain: a body and three rattles.
  chain: {
    seconds: 0.5,
    release: 0.1,
    play: (out) => {
      drop(out, 'F2', 2, 0.02, 0.12)
      for (const [at, decay] of [[0, 0.16], [0.018, 0.1], [0.043, 0.14]] as const) noise(out, 'bandpass', 2600, 0.7, decay, at) // prettier-ignore
    },
  },
  // A bottle rolled against its neighbour.
  bottle: {
    seconds: 0.5,
    release: 0.15,
    play: (out) => {
      new FMSynth({
        harmonicity: 3.3,
        modulationIndex: 4,
        envelope: struck(0.22),
        modulationEnvelope: struck(0.05),
      })
        .connect(out)
        .triggerAttackRelease('D6', 0.22, 0)
      noise(out, 'bandpass', 900, 6, 0.12)
    },
  },
  // Two glasses: very high, very short.
  clink: {
    seconds: 0.2,
    release: 0.05,
    play: (out) => {
      const filter = new Filter({ type: 'highpass', frequency: 7000 }).connect(out)
      new MetalSynth({ harmonicity: 5.1, modulationIndex: 24, resonance: 6000, octaves: 1, envelope: { attack: 0.001, decay: 0.07, release: 0.01 } })
        .connect(filter)
        .triggerAttackRelease(320, 0.07, 0) // prettier-ignore
    },
  },
  // Steam from a valve.
  hiss: { seconds: 0.9, release: 0.12, play: (out) => noise(out, 'highpass', 5200, 0.5, 0.6, 0, 0.008) },
  // A shell set down on deck: a dry tick.
  shell: {
    seconds: 0.15,
    release: 0.03,
    play: (out) => {
      noise(out, 'bandpass', 2300, 4, 0.02)
      new Synth({ oscillator: { type: 'triangle' }, envelope: struck(0.03) })
        .connect(out)
        .triggerAttackRelease(1720, 0.03, 0)
    },
  },
  // A winch paying out: a drum with teeth.
  winch: {
    seconds: 0.7,
    release: 0.15,
    play: (out) => {
      drop(out, 'G1', 1.2, 0.12, 0.36)
      for (let tooth = 0; tooth < 6; tooth++) noise(out, 'bandpass', 1300, 5, 0.014, tooth * 0.034)
    },
  },
  // The buoy's bell: long and not quite in tune.
  bell: {
    seconds: 2.2,
    release: 0.7,
    play: (out) => {
      new FMSynth({
        harmonicity: 1.414,
        modulationIndex: 7,
        envelope: struck(2),
        modulationEnvelope: struck(1.2),
      })
        .connect(out)
        .triggerAttackRelease('G5', 2, 0)
    },
  },
  // A rope drawn through a ring: soft, no attack.
  rope: { seconds: 0.3, release: 0.06, play: (out) => noise(out, 'bandpass', 3600, 1.4, 0.11, 0, 0.03) },
  // A hammer on a rail: two square tones.
  rail: {
    seconds: 0.6,
    release: 0.12,
    play: (out) => {
      const filter = new Filter({ type: 'bandpass', frequency: 1100, Q: 1.2 }).connect(out)
      for (const hertz of [562, 845]) {
        new Synth({ oscillator: { type: 'square' }, envelope: struck(0.3) })
          .connect(filter)
          .triggerAttackRelease(hertz, 0.3, 0)
      }
    },
  },
  // A plank on the gangway: wood, hollow.
  plank: {
    seconds: 0.4,
    release: 0.08,
    play: (out) => {
      new AMSynth({ harmonicity: 2.6, envelope: struck(0.13), modulationEnvelope: struck(0.06) })
        .connect(out)
        .triggerAttackRelease(236, 0.13, 0)
      noise(out, 'lowpass', 700, 1, 0.03)
    },
  },
  // A gull overhead: one bent cry over a breath of air.
  gull: {
    seconds: 1.4,
    release: 0.4,
    play: (out) => {
      noise(out, 'highpass', 3000, 0.4, 1.1, 0, 0.01)
      const cry = new Oscillator({ type: 'triangle', frequency: 1900, volume: -10 }).connect(out)
      new FrequencyEnvelope({ baseFrequency: 1250, octaves: 0.9, attack: 0.09, decay: 0.5, sustain: 0 })
        .connect(cry.frequency)
        .triggerAttack(0)
      cry.start(0).stop(0.55)
    },
  },
}

/** What plays where a kit names a voice that is not built in. */
const STAND_IN = 'shell'
const PEAK = 0.9

export const voiceOf = (id: string): string => (id in voices ? id : STAND_IN)
export const releaseOf = (id: string): number => voices[voiceOf(id)]?.release ?? 0.1

/** Every voice as a buffer of one channel, all equally loud at their peak. */
export async function renderKit(): Promise<Map<string, AudioBuffer>> {
  const kit = new Map<string, AudioBuffer>()
  for (const [id, { seconds, play }] of Object.entries(voices)) {
    const rendered = await Offline(({ destination }) => play(destination), seconds, 1, 44100)
    const buffer = rendered.get()
    if (buffer) kit.set(id, atPeak(buffer))
  }
  return kit
}

function atPeak(buffer: AudioBuffer): AudioBuffer {
  const samples = buffer.getChannelData(0)
  const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
  if (peak > 0) samples.forEach((sample, at) => (samples[at] = (sample / peak) * PEAK))
  return buffer
}

/** The way of one lane through the built-in sounds: it answers to the controllers that the MIDI standard has names for. */
import type { Move } from './port'

const VOLUME = 7
const PAN = 10
const BRIGHTNESS = 74
/** Seconds in which a controller glides to its value: short enough to be at once, long enough not to click. */
const GLIDE = 0.003
const DARKEST = 180
const BRIGHTEST = 20_000

export class Part {
  readonly input: AudioNode
  readonly #filter: BiquadFilterNode
  readonly #panner: StereoPannerNode
  readonly #gain: GainNode

  constructor(context: BaseAudioContext, out: AudioNode) {
    this.#filter = new BiquadFilterNode(context, { type: 'lowpass', frequency: BRIGHTEST, Q: 0.7 })
    this.#panner = new StereoPannerNode(context)
    this.#gain = new GainNode(context)
    this.#filter.connect(this.#panner).connect(this.#gain).connect(out)
    this.input = this.#filter
  }

  move({ controller, value, time }: Move) {
    const share = value / 127
    if (controller === VOLUME) this.#gain.gain.setTargetAtTime(share ** 2, time, GLIDE)
    if (controller === PAN) this.#panner.pan.setTargetAtTime((value - 64) / 64, time, GLIDE)
    if (controller === BRIGHTNESS)
      this.#filter.frequency.setTargetAtTime(DARKEST * (BRIGHTEST / DARKEST) ** share, time, GLIDE)
  }

  /** As if no controller had ever moved. */
  rest(time: number) {
    this.#gain.gain.setTargetAtTime(1, time, GLIDE)
    this.#panner.pan.setTargetAtTime(0, time, GLIDE)
    this.#filter.frequency.setTargetAtTime(BRIGHTEST, time, GLIDE)
  }
}

/** The one room that all share: what is sent there comes back as from the walls of a dry dock. */

const SECONDS = 1.8
/** Within how many seconds it has fallen to 1/e, and how long it takes until the first of it is back. */
const FADES = 0.42
const FIRST = 0.012

/** What a room answers to a single click. Noise by a generator of its own, so that it is the same each time. */
function answerOf(context: BaseAudioContext): AudioBuffer {
  const length = Math.round(SECONDS * context.sampleRate)
  const buffer = context.createBuffer(2, length, context.sampleRate)
  let seed = 20_261
  for (let side = 0; side < 2; side++) {
    const samples = buffer.getChannelData(side)
    for (let at = Math.round(FIRST * context.sampleRate); at < length; at++) {
      seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
      const noise = seed / 1_073_741_824 - 1
      samples[at] = noise * Math.exp(-at / context.sampleRate / FADES)
    }
  }
  return buffer
}

/** The room as a node to send to; it answers into `out`. */
export function room(context: BaseAudioContext, out: AudioNode): AudioNode {
  const convolver = new ConvolverNode(context, { buffer: answerOf(context), disableNormalization: false })
  convolver.connect(new GainNode(context, { gain: 1.6 })).connect(out)
  return convolver
}

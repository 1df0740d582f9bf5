/** Sound as a WAV file: 16 bits, as many channels as there are. */

const HEADER = 44
const BYTES = 2

/** What of an AudioBuffer a file needs. */
export interface Samples {
  readonly numberOfChannels: number
  readonly sampleRate: number
  readonly length: number
  getChannelData(channel: number): Float32Array
}

/** The bytes of a RIFF WAVE file (Microsoft and IBM, 1991). Samples beyond full scale are cut. */
export function wavOf(sound: Samples): ArrayBuffer {
  const { numberOfChannels: channels, sampleRate, length } = sound
  const bytes = length * channels * BYTES
  const view = new DataView(new ArrayBuffer(HEADER + bytes))
  const text = (at: number, letters: string) =>
    [...letters].forEach((letter, place) => view.setUint8(at + place, letter.charCodeAt(0)))
  text(0, 'RIFF')
  view.setUint32(4, HEADER - 8 + bytes, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, channels, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * channels * BYTES, true)
  view.setUint16(32, channels * BYTES, true)
  view.setUint16(34, 8 * BYTES, true)
  text(36, 'data')
  view.setUint32(40, bytes, true)
  for (let channel = 0; channel < channels; channel++) {
    sound.getChannelData(channel).forEach((sample, at) => {
      const whole = Math.round(Math.max(-1, Math.min(1, sample)) * 0x7fff)
      view.setInt16(HEADER + (at * channels + channel) * BYTES, whole, true)
    })
  }
  return view.buffer
}

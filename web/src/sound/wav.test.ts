// @vitest-environment node
import { describe, expect, it } from 'vitest'

import { wavOf } from './wav'

const channels = [new Float32Array([0, 1, -1, 2]), new Float32Array([0.5, 0, 0, -2])]
const bytes = wavOf({
  numberOfChannels: 2,
  sampleRate: 44100,
  length: 4,
  getChannelData: (channel) => channels[channel]!,
})
const view = new DataView(bytes)
const letters = (at: number, count: number) => String.fromCharCode(...new Uint8Array(bytes, at, count))

describe('a WAV file', () => {
  it('says what it holds', () => {
    expect([letters(0, 4), letters(8, 8), letters(36, 4)]).toEqual(['RIFF', 'WAVEfmt ', 'data'])
    expect([view.getUint32(4, true), view.getUint32(40, true)]).toEqual([bytes.byteLength - 8, 16])
    expect([view.getUint16(22, true), view.getUint32(24, true), view.getUint16(34, true)]).toEqual([
      2, 44100, 16,
    ])
  })
  it('holds the samples of both channels in turn, and none beyond full scale', () => {
    const samples = Array.from({ length: 8 }, (_, at) => view.getInt16(44 + at * 2, true))
    expect(samples).toEqual([0, 16384, 32767, 0, -32767, 0, 32767, -32767])
  })
})

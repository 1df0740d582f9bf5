/** Clicks before the music begins: on nobody's lane, and so on no tape. */
import type { Schemas } from '@/api/client'
import { BUILT_IN, type Port, type Sounding } from './port'
import { wrapped } from './time'

/** The voice that counts in. */
const CLICK = 'shell'
const SECONDS = 0.05

/** Strike a click at each of `times`, in seconds; the first of each `inBar` is higher. */
export function countIn(
  port: Port,
  { voices, channel }: Schemas['Kit'],
  times: readonly number[],
  inBar: number,
): Sounding[] {
  const voice = voices.find(({ id }) => id === CLICK) ?? voices[0]
  if (!voice) return []
  return times.map((time, at) => {
    const [higher, velocity] = wrapped(at, inBar) === 0 ? [7, 110] : [0, 80]
    return port.strike({
      part: 'clicks', port: BUILT_IN, room: 0, voice, semitones: higher, tone: null, velocity, channel, time, level: 0, pan: 0, pitch: voice.pitch, end: time + SECONDS,
    }) // prettier-ignore
  })
}

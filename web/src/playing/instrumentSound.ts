/** What the simulated instrument sounds like: the kit on its channel, a plain voice on the others. */
import type { Schemas } from '@/api/client'
import { BUILT_IN, type Port, type Sounding } from '@/sound/port'
import { channelOf, isNoteOff, isNoteOn, movedBy } from '@/sound/midi/messages'
import type { ReceivedMessage } from '@/sound/midi/instrument'
import { PLAIN_VOICE } from '@/work/document'

const LONGEST = 60 // seconds that a note sounds at most
const VOICE = { ...PLAIN_VOICE, id: 'lantern', name: 'Lantern', pitch: 69 }
const TONE = { brightness: 55, attack_ms: 3, release_ms: 300 }

/** Sound what is taken through `port`; `kit`: what the kit is now. */
export function sounded(port: Port, kit: () => Schemas['Kit'] | null): (taken: ReceivedMessage) => void {
  const sounding = new Map<string, Sounding>()
  return ({ message, time }) => {
    const channel = channelOf(message)
    const [, pitch = 0, velocity = 0] = message
    if (channel === null) return
    const part = `simulated ${channel}`
    const move = movedBy(message)
    if (move) return port.move({ part, port: BUILT_IN, channel, time, ...move })
    const key = `${channel} ${pitch}`
    if (!isNoteOn(message) && !isNoteOff(message)) return
    const before = sounding.get(key)
    before?.letGo?.(time)
    sounding.delete(key)
    if (!isNoteOn(message)) return
    const struck = channel === kit()?.channel ? kit()?.voices.find((one) => one.pitch === pitch) : undefined
    const how = struck ? { voice: struck, tone: null } : { voice: VOICE, tone: TONE }
    const stands = { level: 0, pan: 0, room: 0, semitones: 0 }
    const note = { part, port: BUILT_IN, channel, pitch, velocity, time, end: time + LONGEST }
    sounding.set(key, port.strike({ ...note, ...how, ...stands }))
  }
}

/** What the engine answered, note by note and control by control, ready to be given to a port. */
import type { Schemas } from '@/api/client'

export type Sounds = Schemas['Sounds']

export interface Ready {
  readonly laneId: string
  readonly start: number
  readonly length: number
  readonly pitch: number
  readonly velocity: number
  readonly channel: number
  readonly straight: number
  readonly tune: number
  /** What strikes it, tuned by so many semitones; `tone`: of a voice that plays any pitch. */
  readonly voice: Schemas['Voice'] | undefined
  readonly semitones: number
  readonly tone: Schemas['Tone'] | null
  readonly level: number
  readonly pan: number
  readonly room: number
  readonly port: string
}
export interface ReadyControl {
  readonly laneId: string
  readonly port: string
  readonly tick: number
  readonly controller: number
  readonly value: number
  readonly channel: number
}
export const notesOf = ({ events, lanes, ports, voices, settings }: Sounds): Ready[] =>
  events.starts.map((start, at) => {
    const set = settings[events.settings[at] as number]
    return {
      laneId: lanes[events.lanes[at] as number] ?? '',
      port: ports[events.lanes[at] as number] ?? '',
      tone: set?.tone ?? null,
      level: set?.level_db ?? 0,
      pan: set?.pan ?? 0,
      room: set?.room ?? 0,
      voice: voices[events.voices[at] as number],
      semitones: events.semitones[at] as number,
      start,
      length: events.lengths[at] as number,
      pitch: events.pitches[at] as number,
      velocity: events.velocities[at] as number,
      tune: events.tunes[at] as number,
      channel: events.channels[at] as number,
      straight: events.straights[at] as number,
    }
  })

export const controlsOf = (columns: Sounds['controls'], { lanes, ports }: Sounds): ReadyControl[] =>
  columns.ticks.map((tick, at) => ({
    laneId: lanes[columns.lanes[at] as number] ?? '',
    port: ports[columns.lanes[at] as number] ?? '',
    tick,
    controller: columns.controllers[at] as number,
    value: columns.values[at] as number,
    channel: columns.channels[at] as number,
  }))

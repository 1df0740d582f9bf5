/** What can be set of a voice of a kit: each number by its field, its name, and what it does. */
import type { Voice } from '@/api/library'
import { Voice as Limits } from '@/api/limits.json'
import { numberWord } from '@/sentence/number'

export type Numbered =
  'pitch' | 'tune' | 'start_percent' | 'length_percent' | 'fade_in_ms' | 'fade_out_ms' | 'level_db' | 'pan'
export type VoiceNumber = readonly [field: Numbered, name: string, explains: string]

/** How the sound itself is cut. */
export const CUTS: readonly VoiceNumber[] = [
  ['start_percent', 'from %', 'How much of its beginning is left out'],
  ['length_percent', 'length %', 'How much of the sound is heard'],
  ['fade_in_ms', 'fade in', 'Milliseconds in which it swells'],
  ['fade_out_ms', 'fade out', 'Milliseconds in which it fades before it is over'],
]
export const NUMBERS: readonly VoiceNumber[] = [
  ['pitch', 'note', 'The MIDI note number that plays this voice'],
  ['tune', 'tune', 'Semitones higher or lower'],
  ...CUTS,
  ['level_db', 'level dB', 'How loud it is'],
  ['pan', 'pan', 'From left (−100) to right (100)'],
]

export const wordOf = (voice: Voice, [field, name]: VoiceNumber) =>
  numberWord(name, voice[field], Limits[field], field)

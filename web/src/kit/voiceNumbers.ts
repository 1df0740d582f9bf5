/** What can be set of a voice of a kit: each number by its field, its name, and between what it lies. */
import type { Voice } from '@/api/library'
import { numberWord } from '@/sentence/number'

export type Numbered =
  'pitch' | 'tune' | 'start_percent' | 'length_percent' | 'fade_in_ms' | 'fade_out_ms' | 'level_db' | 'pan'
export type VoiceNumber = readonly [
  field: Numbered,
  name: string,
  low: number,
  high: number,
  explains: string,
]

/** How the sound itself is cut. */
export const CUTS: readonly VoiceNumber[] = [
  ['start_percent', 'from %', 0, 95, 'How much of its beginning is left out'],
  ['length_percent', 'length %', 5, 100, 'How much of the sound is heard'],
  ['fade_in_ms', 'fade in', 0, 2000, 'Milliseconds in which it swells'],
  ['fade_out_ms', 'fade out', 0, 2000, 'Milliseconds in which it fades before it is over'],
]
export const NUMBERS: readonly VoiceNumber[] = [
  ['pitch', 'note', 0, 127, 'The MIDI note number that plays this voice'],
  ['tune', 'tune', -24, 24, 'Semitones higher or lower'],
  ...CUTS,
  ['level_db', 'level dB', -48, 6, 'How loud it is'],
  ['pan', 'pan', -100, 100, 'From left (−100) to right (100)'],
]

export const wordOf = (voice: Voice, [field, name, low, high]: VoiceNumber) =>
  numberWord(name, voice[field], low, high, field)

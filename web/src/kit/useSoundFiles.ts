/** Sound files that are dropped or chosen: stored as sounds, to become voices of the kit, or a kit and lanes of their own. */
import beginnings from '@/api/beginnings.json'
import type { Lane } from '@/api/client'
import { library, type Voice } from '@/api/library'
import { useLongWork } from '@/page/longWork'
import { useNotices } from '@/page/notices'
import { inks } from '@/theme/inks'
import { newId, PLAIN_VOICE, plainLane } from '@/work/document'
import { usePiece } from '@/work/piece'

const HIGHEST = 127 // MIDI note

export function useSoundFiles() {
  const piece = usePiece()
  const notices = useNotices()
  const work = useLongWork()

  /** Store `files` as sounds. What is no sound is named, and keeps none of the others out. */
  async function store(files: readonly File[]): Promise<Voice[]> {
    const stored: Voice[] = []
    const known = [...(piece.document?.kit.voices ?? [])]
    for (const file of files) {
      const added = await work.during(
        `“${file.name}” is being read …`,
        (signal) => library.addSound(file, signal),
        { about: file.name },
      )
      if (!added) continue
      const { sound, name } = added
      stored.push({ id: newId('voice', [...known, ...stored]), name, sound, pitch: 0, ...PLAIN_VOICE })
    }
    return stored
  }

  /** Voices on the first notes from `first` on that none of `others` has. */
  function placed(voices: readonly Voice[], others: readonly Voice[], first: number): Voice[] {
    const taken = new Set(others.map(({ pitch }) => pitch))
    return voices.map((voice) => {
      let pitch = first
      while (taken.has(pitch) && pitch < HIGHEST) pitch++
      taken.add(pitch)
      return { ...voice, pitch }
    })
  }

  const namesOf = (voices: readonly Voice[]) => voices.map(({ name }) => name).join(', ')

  function addToKit(voices: readonly Voice[]) {
    if (!voices.length) return
    piece.edit(`Kit: ${namesOf(voices)}`.slice(0, 120), (document) => {
      const { kit } = document
      const added = placed(voices, kit.voices, beginnings.first_added)
      return { ...document, kit: { ...kit, voices: [...kit.voices, ...added] } }
    })
    const said = voices.length === 1 ? 'is a voice' : 'are voices'
    notices.say(`${namesOf(voices)} ${said} of the kit: give a lane one, under its name.`)
  }

  /** A kit of these sounds, and a lane for each; voices that other lanes play stay in it. */
  function makeKit(voices: readonly Voice[]) {
    const pattern = piece.pattern?.id
    if (!voices.length || !pattern) return
    const name = `Kit of ${voices[0]?.name ?? 'sounds'}`.slice(0, 80)
    piece.edit(`${name}: ${voices.length} ${voices.length === 1 ? 'lane' : 'lanes'}`, (document) => {
      const used = new Set(document.patterns.flatMap(({ lanes }) => lanes.map(({ voice }) => voice)))
      const kept = document.kit.voices.filter(({ id }) => used.has(id))
      const own = placed(voices, kept, beginnings.first_of_a_kit)
      return {
        ...document,
        kit: { ...document.kit, name, voices: [...own, ...kept] },
        patterns: document.patterns.map((one) => {
          if (one.id !== pattern) return one
          const lanes = [...one.lanes]
          own.forEach((voice, at) => {
            const source = beginnings.sounds[at % beginnings.sounds.length] as Lane['source']
            const ink = lanes.length % inks.length
            lanes.push(
              plainLane({ id: newId('lane', lanes), name: voice.name, voice: voice.id, ink, source }),
            )
          })
          return { ...one, lanes }
        }),
      }
    })
  }
  return { store, addToKit, makeKit }
}

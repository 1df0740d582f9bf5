/** Sound files that are dropped or chosen: stored as sounds, to become voices of the kit, or a kit and lanes of their own. */
import { library, type Voice } from '@/api/library'
import { useNotices } from '@/page/notices'
import { inks } from '@/theme/inks'
import { newId, PLAIN_VOICE, plainLane } from '@/work/document'
import { usePiece } from '@/work/piece'

const [FIRST_ADDED, FIRST_OF_A_KIT, HIGHEST] = [48, 36, 127]
/** Hits in sixteen that lanes of new sounds begin with: each against the others. */
const BEGIN = [4, 3, 5, 7, 2, 9, 6, 11]

export function useSoundFiles() {
  const piece = usePiece()
  const notices = useNotices()

  /** Store `files` as sounds. What is no sound is named, and keeps none of the others out. */
  async function store(files: readonly File[]): Promise<Voice[]> {
    const stored: Voice[] = []
    const known = [...(piece.document?.kit.voices ?? [])]
    for (const file of files) {
      try {
        const { sound, name } = await library.addSound(file)
        const voice = { id: newId('voice', [...known, ...stored]), name, sound, pitch: 0, ...PLAIN_VOICE }
        stored.push(voice)
      } catch (reason) {
        notices.complain(new Error(`${file.name}: ${reason instanceof Error ? reason.message : reason}`))
      }
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
      const added = placed(voices, kit.voices, FIRST_ADDED)
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
      const own = placed(voices, kept, FIRST_OF_A_KIT)
      return {
        ...document,
        kit: { ...document.kit, name, voices: [...own, ...kept] },
        patterns: document.patterns.map((one) => {
          if (one.id !== pattern) return one
          const lanes = [...one.lanes]
          own.forEach((voice, at) => {
            const source = { kind: 'euclidean', hits: BEGIN[at % BEGIN.length] ?? 4, steps: 16 } as const
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

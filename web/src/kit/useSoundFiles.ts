/** Sound files that are dropped or chosen: stored as sounds, to become voices of the kit, or a kit and lanes of their own. */
import { library, type Voice } from '@/api/library'
import { useLongWork } from '@/page/longWork'
import { useNotices } from '@/page/notices'
import { newId, PLAIN_VOICE } from '@/work/document'
import { usePiece } from '@/work/piece'

export function useSoundFiles() {
  const piece = usePiece()
  const notices = useNotices()
  const work = useLongWork()

  /** Store `files` as sounds, beside `others`. What is no sound is named, and keeps none of the others out. */
  async function store(files: readonly File[], others: readonly Voice[] = []): Promise<Voice[]> {
    const stored: Voice[] = []
    for (const file of files) {
      const added = await work.during(
        `“${file.name}” is being read …`,
        (signal) => library.addSound(file, signal),
        { about: file.name },
      )
      if (!added) continue
      const { sound, name } = added
      stored.push({ id: newId('voice', [...others, ...stored]), name, sound, pitch: 0, ...PLAIN_VOICE })
    }
    return stored
  }

  const namesOf = (voices: readonly Voice[]) => voices.map(({ name }) => name).join(', ')

  /** They are voices of the kit as well. */
  async function addToKit(voices: readonly Voice[]) {
    if (!voices.length) return
    const label = `Kit: ${namesOf(voices)}`.slice(0, 120)
    if (!(await piece.editAsAnswered(label, (document) => library.addVoices(document, [...voices])))) return
    const verb = voices.length === 1 ? 'is a voice' : 'are voices'
    notices.say(`${namesOf(voices)} ${verb} of the kit: give a lane one, under its name.`)
  }

  /** They are the kit, with a lane for each; voices that other lanes play stay in it. */
  async function makeKit(voices: readonly Voice[]) {
    const pattern = piece.pattern?.id
    if (!voices.length || !pattern) return
    const lanes = `${voices.length} ${voices.length === 1 ? 'lane' : 'lanes'}`
    const label = `Kit of ${voices[0]?.name ?? 'sounds'}`.slice(0, 80)
    await piece.editAsAnswered(`${label}: ${lanes}`, (document) =>
      library.makeKit(document, pattern, [...voices]),
    )
  }
  return { store, addToKit, makeKit }
}

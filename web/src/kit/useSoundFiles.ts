/** Sound files that are dropped or chosen become voices of the kit, several at once. */
import { library, type Voice } from '@/api/library'
import { newId, PLAIN_VOICE } from '@/work/document'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { usePlaying } from '@/playing/playing'

export function useSoundFiles() {
  const piece = usePiece()
  const playing = usePlaying()
  const notices = useNotices()

  /** A new voice made of a sound, on the first note from 48 on that no other has. */
  function addVoice(sound: string, name: string): Voice | null {
    const kit = piece.document?.kit
    if (!kit) return null
    const taken = new Set(kit.voices.map(({ pitch }) => pitch))
    let pitch = 48
    while (taken.has(pitch) && pitch < 127) pitch++
    const voice: Voice = {
      id: newId('voice', kit.voices), name, pitch, sound, ...PLAIN_VOICE,
    } // prettier-ignore
    piece.edit(`Kit: voice ${name}`, (document) => ({
      ...document,
      kit: { ...document.kit, voices: [...document.kit.voices, voice] },
    }))
    return voice
  }

  /** Store `files` as sounds and make voices of them. What is no sound is named, and keeps none of the others out. */
  async function take(files: readonly File[]) {
    const added: Voice[] = []
    for (const file of files) {
      try {
        const { sound, name } = await library.addSound(file)
        const voice = addVoice(sound, name)
        if (voice) added.push(voice)
      } catch (reason) {
        notices.complain(new Error(`${file.name}: ${reason instanceof Error ? reason.message : reason}`))
      }
    }
    const [first] = added
    if (!first) return
    const names = added.map(({ name }) => name).join(', ')
    notices.say(`${names} ${added.length === 1 ? 'is a voice' : 'are voices'} of the kit: give a lane one, under its name.`) // prettier-ignore
    void playing.tryVoice(first)
  }
  return { take }
}

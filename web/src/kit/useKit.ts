/** The kit of the open piece, and what is done to it: its voices, other kits, kits and sounds of one's own. */
import { computed, ref, type Ref } from 'vue'

import { library, type Kit, type ListedKit, type Voice } from '@/api/library'
import { useNotices } from '@/page/notices'
import { useList } from '@/page/useLists'
import { useTrying } from '@/playing/useTrying'
import { usePiece } from '@/work/piece'
import { useSoundFiles } from './useSoundFiles'

/** `isOpen`: whether kits and sounds are wanted. */
export function useKit(isOpen: Ref<boolean>) {
  const piece = usePiece()
  const notices = useNotices()
  const trying = useTrying()
  const soundFiles = useSoundFiles()
  const { lines: kits, again: readKits } = useList(['kits'], library.kits, isOpen)
  const { lines: sounds, again: readSounds } = useList(['sounds'], library.sounds, isOpen)
  const isBusy = ref(false)

  const kit = computed<Kit | null>(() => piece.document?.kit ?? null)
  /** Voices that lanes of the piece play: these stay in the kit. */
  const inUse = computed(
    () => new Set(piece.patterns.flatMap(({ lanes }) => lanes.map(({ voice }) => voice))),
  )

  async function attempt<Result>(act: () => Promise<Result>) {
    isBusy.value = true
    const result = await notices.attempt(act)
    isBusy.value = false
    return result
  }
  function change(label: string, fields: Partial<Kit>, gesture: string | null = null) {
    piece.edit(`Kit: ${label}`, (document) => ({ ...document, kit: { ...document.kit, ...fields } }), gesture)
  }
  function changeVoice(voice: Voice, label: string, fields: Partial<Voice>, gesture: string | null = null) {
    const voices = kit.value?.voices.map((one) => (one.id === voice.id ? { ...one, ...fields } : one)) ?? []
    change(`${voice.name} ${label}`, { voices }, gesture)
  }
  function removeVoice(voice: Voice) {
    change(`without ${voice.name}`, { voices: kit.value?.voices.filter(({ id }) => id !== voice.id) ?? [] })
  }
  /** Play a voice with another sound; its own: none of one's own. */
  function changeSound(voice: Voice, sound: string) {
    const changed = { ...voice, sound: sound === voice.id ? null : sound }
    changeVoice(voice, 'sound', { sound: changed.sound })
    void trying.tryVoice(changed)
  }

  /** Exchange the kit: lanes keep their places. */
  const exchange = ({ kit: other }: ListedKit) =>
    attempt(() =>
      piece.editAsAnswered(`Kit: ${other.name}`, (document) => library.exchangeKit(document, other)),
    )
  const addFiles = (files: readonly File[]) =>
    attempt(async () => {
      const stored = await soundFiles.store(files)
      await soundFiles.addToKit(stored)
      const [first] = stored
      if (first) void trying.tryVoice(first)
      await readSounds()
    })
  /** Keep the kit as one of one's own. Whether it is kept. */
  const keepKit = (name: string) =>
    attempt(async () => {
      if (!kit.value) return false
      await library.keepKit({ ...kit.value, name })
      change(`kept as ${name}`, { name })
      await readKits()
      notices.say(`Kept the kit “${name}”: any piece can play it.`)
      return true
    })
  const forgetKit = (one: ListedKit) =>
    attempt(async () => {
      if (one.id === null) return
      await library.deleteKit(one.id)
      await readKits()
      const keepAgain = () =>
        attempt(async () => {
          await library.keepKit(one.kit)
          await readKits()
        })
      notices.say(`“${one.kit.name}” is no longer among your kits.`, { label: 'Undo', act: keepAgain })
    })

  return { kit, kits, sounds, inUse, isBusy, change, changeVoice, removeVoice, changeSound, exchange, addFiles, keepKit, forgetKit } // prettier-ignore
}

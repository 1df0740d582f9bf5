/** A loop of known notes: a take or a clip. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { LoopPlayer, type Loop } from '@/sound/loop'
import { wavOf } from '@/sound/wav'
import { ensureAudio, restAudio } from './audio'
import { useSounding } from './sounding'

export const useLoops = defineStore('loops', () => {
  const sounding = useSounding()
  const notices = useNotices()
  const player = shallowRef<LoopPlayer | null>(null)
  /** What loops, by a name of its own; '' when nothing does. */
  const looping = ref('')
  /** What is to loop next: of several that were asked for the last one alone, and none once all is stopped. */
  const wanted = useNewest()

  /** Play what `find` finds as a loop; where one plays already, this takes its place, in time. */
  async function play(name: string, find: () => Promise<Loop> | Loop) {
    try {
      const ready = await wanted.ask(async () => {
        const notes = await find()
        const sound = await sounding.start()
        await sound.fetchOwn(voicesOf(notes))
        return { notes, sound }
      })
      if (!ready) return
      sounding.takeOver('loop')
      player.value ??= new LoopPlayer(ready.sound.clock, ready.sound.port)
      if (looping.value) player.value.change(ready.notes)
      else player.value.play(ready.notes)
      looping.value = name
    } catch (reason) {
      notices.complain(reason)
    }
  }
  /** Exchange the notes of what loops, if it is still `name`. */
  function change(name: string, notes: Loop) {
    if (looping.value === name) player.value?.change(notes)
  }
  function stop() {
    wanted.cancel()
    if (!looping.value) return
    restAudio()
    player.value?.stop()
    looping.value = ''
  }
  sounding.onTick(() => player.value?.tick())
  sounding.onTakeOver((source) => source === 'loop' || stop())

  /** One pass of a loop as the bytes of a WAV file. */
  async function renderWav(notes: Loop): Promise<ArrayBuffer> {
    const sound = await ensureAudio()
    await sound.fetchOwn(voicesOf(notes))
    return wavOf(await sound.offline(notes))
  }

  return { player, looping, play, change, stop, renderWav }
})

const voicesOf = ({ tracks }: Loop) =>
  tracks.flatMap(({ sounds }) => Object.values(sounds).map(({ voice }) => voice))

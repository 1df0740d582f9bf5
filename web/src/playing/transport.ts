/** What Space, Stop and the panic key do, whatever plays. */
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'

import { useNotices } from '@/page/notices'
import { ensureAudio } from './audio'
import { useLoops } from './loops'
import { usePlaying } from './playing'
import { usePorts } from './ports'
import { useSounding } from './sounding'

export const useTransport = defineStore('transport', () => {
  const sounding = useSounding()
  const playing = usePlaying()
  const loops = useLoops()
  const ports = usePorts()
  const notices = useNotices()
  /** What Space plays on a screen that has something of its own to play; null: the pattern. */
  const ownPlay = shallowRef<(() => unknown) | null>(null)
  const isSounding = computed(() => playing.isPlaying || loops.looping !== '')

  const stop = () => sounding.takeOver(null)
  function toggle() {
    if (isSounding.value) return stop()
    return ownPlay.value ? ownPlay.value() : playing.play()
  }
  /** Silence at once, whatever sounds, wherever. */
  async function panic() {
    stop()
    ports.panic()
    await notices.attempt(async () => {
      ;(await ensureAudio()).port.silence()
      notices.say('All is silent: every note at every port is ended.')
    })
  }

  return { ownPlay, isSounding, stop, toggle, panic }
})

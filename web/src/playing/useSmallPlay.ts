/** A score of its own, heard by itself: what the help shows. */
import { onScopeDispose, ref, shallowRef, watch } from 'vue'

import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { Player } from '@/sound/player'
import type { Playing } from '@/sound/tape'
import { restAudio } from './audio'
import { usePlaying } from './playing'

/** Plays what `now` says, and goes on as it changes. What else plays is stopped. Stops with its scope. */
export function useSmallPlay(now: () => Playing | null) {
  const playing = usePlaying()
  const notices = useNotices()
  const player = shallowRef<Player | null>(null)
  const isPlaying = ref(false)
  /** Not once it is stopped, or its page is closed. */
  const starting = useNewest()
  let leaveClock: (() => void) | null = null

  async function play() {
    try {
      playing.stop()
      const sound = await starting.ask(playing.sounding)
      if (!sound) return
      const ours = (player.value ??= new Player(sound.clock, sound.port, playing.engine))
      leaveClock ??= sound.onTick(() => ours.tick())
      const first = now()
      if (first) await ours.play(first)
      if (isOver) return ours.stop()
      isPlaying.value = ours.isPlaying
    } catch (reason) {
      notices.complain(reason)
    }
  }
  function stop() {
    starting.cancel()
    if (!isPlaying.value) return player.value?.stop()
    player.value?.stop()
    restAudio()
    isPlaying.value = false
  }
  watch(now, (next) => next && player.value?.change(next))
  let isOver = false
  onScopeDispose(() => {
    isOver = true
    stop()
    leaveClock?.()
  })
  return { player, isPlaying, play, stop }
}

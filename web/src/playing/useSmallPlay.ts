/** A score of its own, heard by itself: what the help shows. */
import { onScopeDispose, ref, shallowRef, watch } from 'vue'

import { useConversation } from '@/engine/useConversation'
import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { Player } from '@/sound/player'
import type { Playing } from '@/sound/tape'
import { restAudio } from './audio'
import { useSounding } from './sounding'

/** Plays what `now` says, and goes on as it changes. What else plays is stopped. Stops with its scope. */
export function useSmallPlay(now: () => Playing | null) {
  const sounding = useSounding()
  const conversation = useConversation()
  const notices = useNotices()
  const player = shallowRef<Player | null>(null)
  const isPlaying = ref(false)
  /** Not once it is stopped, or its page is closed. */
  const starting = useNewest()
  let leaveClock: (() => void) | null = null

  async function play() {
    try {
      sounding.takeOver('example')
      const sound = await starting.ask(sounding.start)
      if (!sound) return
      const ours = (player.value ??= new Player(sound.clock, sound.port, conversation))
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
  sounding.onTakeOver((source) => source === 'example' || stop())
  let isOver = false
  onScopeDispose(() => {
    isOver = true
    stop()
    leaveClock?.()
  })
  return { player, isPlaying, play, stop }
}

/** Keys of controllers: they play what the Keyboard on the screen plays; each controller lets go of its own. */
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

import { useNotices } from '@/page/notices'
import type { KeyHandler, Stamped } from './midiKeyboard'

export const usePlayedKeys = defineStore('played keys', () => {
  const notices = useNotices()
  /** What keys play now: the Keyboard, while it is open. */
  const player = shallowRef<KeyHandler | null>(null)
  const down = new Map<string, Set<number>>()
  let isTold = false

  function playerOf(from: string): KeyHandler {
    const own = down.get(from) ?? new Set<number>()
    down.set(from, own)
    return {
      down(key, velocity, event) {
        if (!player.value && !isTold) {
          isTold = true
          notices.say(`“${from}” plays as soon as the Keyboard is open on the lattice: press J there.`)
        }
        own.add(key)
        player.value?.down(key, velocity, event)
      },
      up(key, event) {
        own.delete(key)
        player.value?.up(key, event)
      },
      sustain: (isDown, event) => player.value?.sustain(isDown, event),
    }
  }
  /** A controller is gone: what it held is let go. */
  function releaseFrom(from: string, event: Stamped = { timeStamp: performance.now() }) {
    for (const key of down.get(from) ?? []) player.value?.up(key, event)
    if (down.delete(from)) player.value?.sustain(false, event)
  }
  return { player, playerOf, releaseFrom }
})

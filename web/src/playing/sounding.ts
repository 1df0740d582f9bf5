/** The audio, allowed to sound; and who sounds: one thing at a time. */
import { createEventHook } from '@vueuse/core'
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

import type { Audio } from '@/sound/audio'
import type { Clock } from '@/sound/port'
import { ensureAudio } from './audio'
import { usePorts } from './ports'

/** What may sound: the open pattern, a loop of known notes, an example of the help. */
type Source = 'pattern' | 'loop' | 'example'

export const useSounding = defineStore('sounding', () => {
  const ports = usePorts()
  const clock = shallowRef<Clock | null>(null)
  /** Several times a horizon, from the first sound on. */
  const onTick = createEventHook<[]>()
  /** Something else sounds from now on, or nothing (null): whatever sounds falls silent, if it is not that. */
  const onTakeOver = createEventHook<Source | null>()
  let isTicking = false

  async function start(): Promise<Audio> {
    const sound = await ensureAudio()
    clock.value = sound.clock
    ports.begin(sound)
    if (!isTicking) sound.onTick(() => void onTick.trigger())
    isTicking = true
    await sound.resume()
    return sound
  }
  const takeOver = (source: Source | null) => void onTakeOver.trigger(source)

  return { clock, onTick: onTick.on, start, takeOver, onTakeOver: onTakeOver.on }
})

/** A few hints for somebody who has never been here: each where it is needed, one at a time. */
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watch } from 'vue'

import { usePlaying } from '@/playing/playing'
import { useKeeping } from '@/playing/keeping'
import { usePiece } from '@/work/piece'

export interface Hint {
  readonly name: string
  readonly says: string
  /** What it stands beside. */
  readonly at: string
}

export const useHints = defineStore('hints', () => {
  const piece = usePiece()
  const playing = usePlaying()
  const keeping = useKeeping()
  /** Those that are done with, on this machine. */
  const done = useLocalStorage<string[]>('jolly-lattice-hints-done', [])
  const areLeft = useLocalStorage('jolly-lattice-hints-left', false)
  const changes = computed(() => piece.history.moments.length)
  const hasLanes = computed(() => !piece.isEmpty && piece.lanes.length > 0)

  /** In this order; `needed`: once it is so, the hint may stand; `learnt`: then it is done with. */
  const all: readonly (Hint & { needed: () => boolean; learnt: () => boolean })[] = [
    {
      name: 'play',
      says: 'Play: Space does it too. All that you change is heard while it plays.',
      at: '[data-hint=play]',
      needed: () => hasLanes.value,
      learnt: () => playing.isPlaying,
    },
    {
      name: 'sentence',
      says: 'This is what the lane does. Drag a number up or down, or type over it; press a word for what it could be.',
      at: '.row.high .sentence .number',
      needed: () => hasLanes.value && playing.isPlaying,
      learnt: () => changes.value > changesAtFirst,
    },
    {
      name: 'keep',
      says: 'Liked that? The tape has been running all the time: this keeps its last bars as a clip, to the note.',
      at: '[data-hint=keep]',
      needed: () => playing.isPlaying,
      learnt: () => keeping.times > 0,
    },
    {
      name: 'clips',
      says: 'What you kept is here, to be heard, cleaned and exported as a MIDI file.',
      at: '[data-hint=clips]',
      needed: () => keeping.times > 0,
      learnt: () => false,
    },
    {
      name: 'help',
      says: 'Each word of it, shown and played: ? or here, whenever you like.',
      at: '[data-hint=me]',
      needed: () => done.value.includes('keep'),
      learnt: () => false,
    },
  ]
  let changesAtFirst = 0
  const now = computed(() => {
    if (areLeft.value) return null
    const hint = all.find(({ name }) => !done.value.includes(name))
    return hint?.needed() ? hint : null
  })
  watch(
    () => now.value?.name,
    () => (changesAtFirst = changes.value),
  )
  watch(
    () => now.value?.learnt() ?? false,
    (isLearnt) => isLearnt && next(),
  )

  function next() {
    if (now.value) done.value = [...done.value, now.value.name]
  }
  const leave = () => (areLeft.value = true)
  function again() {
    done.value = []
    areLeft.value = false
  }
  /** How many there are, and which of them is shown, from 1. */
  const place = computed(() => (now.value ? all.findIndex(({ name }) => name === now.value?.name) + 1 : 0))
  return { now, place, count: all.length, next, leave, again }
})

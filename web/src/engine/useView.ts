import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import type { PropertyName } from '@/api/client'
import { barsOn, pageOf } from '@/sound/time'

/** Bars that can be in view, as buttons; any number from 1 to 16 by wheel and keys. */
export const VIEWS = [1, 2, 4, 8, 16] as const
const MOST = 16

/** What the lattice shows of every step: beads, or one property as bars. */
export const PROPERTY_VIEWS: readonly (readonly [PropertyName | null, string])[] = [
  [null, 'beads'],
  ['velocity', 'velocity'],
  ['chance', 'chance'],
  ['ratchet', 'ratchet'],
  ['nudge', 'nudge'],
  ['length', 'length'],
  ['pitch', 'pitch'],
]

/**
 * Which bars are in view, and what of their steps. While it plays, the view turns its pages with the music, until a hand
 * scrolls.
 */
export const useView = defineStore('view', () => {
  const bars = useLocalStorage<number>('jolly-lattice-bars-in-view', 2)
  const firstBar = ref(0)
  const isFollowing = ref(true)
  const property = ref<PropertyName | null>(null)
  const window = computed(() => ({ first_bar: firstBar.value, bars: bars.value }))

  /** Turn the page if the music has left it. */
  function follow(bar: number) {
    if (isFollowing.value) firstBar.value = pageOf(bar, bars.value)
  }
  /** Show `count` bars; `around`: the bar that should stay in view. */
  function show(count: number, around = firstBar.value) {
    bars.value = Math.min(MOST, Math.max(1, count))
    if (isFollowing.value) firstBar.value = pageOf(around, bars.value)
  }
  const zoom = (by: number) => show(barsOn(bars.value, by))
  function scroll(by: number) {
    isFollowing.value = false
    firstBar.value = barsOn(firstBar.value, by)
  }
  const turnPage = (by: 1 | -1) => scroll(by > 0 ? bars.value : -bars.value)
  const toggleFollowing = () => (isFollowing.value = !isFollowing.value)
  function begin() {
    firstBar.value = 0
    isFollowing.value = true
  }
  /** Go on to the next property, or the one before. */
  function turnProperty(by: number) {
    const here = PROPERTY_VIEWS.findIndex(([name]) => name === property.value)
    property.value = PROPERTY_VIEWS[(here + by + PROPERTY_VIEWS.length) % PROPERTY_VIEWS.length]?.[0] ?? null
  }
  return { bars, firstBar, isFollowing, property, window, follow, show, zoom, scroll, turnPage, toggleFollowing, begin, turnProperty } // prettier-ignore
})

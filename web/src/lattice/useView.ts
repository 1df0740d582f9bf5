import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'

export const VIEWS = [1, 2, 4, 8] as const

/** Which bars are in view. While it plays, the view turns its pages with the music, until a hand scrolls. */
export function useView(isPlaying: () => boolean) {
  const bars = useLocalStorage<number>('jolly-lattice-bars-in-view', 2)
  const firstBar = ref(0)
  const isFollowing = ref(true)
  const window = computed(() => ({ first_bar: firstBar.value, bars: bars.value }))

  watch(isPlaying, (plays) => {
    if (plays) isFollowing.value = true
  })

  /** Turn the page if the music has left it. */
  function follow(bar: number) {
    if (isFollowing.value && isPlaying()) firstBar.value = Math.floor(bar / bars.value) * bars.value
  }
  function show(count: number) {
    bars.value = count
    firstBar.value = Math.floor(firstBar.value / count) * count
  }
  function scroll(by: number) {
    isFollowing.value = false
    firstBar.value = Math.max(0, firstBar.value + by)
  }
  function begin() {
    firstBar.value = 0
    isFollowing.value = true
  }
  return { bars, firstBar, isFollowing, window, follow, show, scroll, begin }
}

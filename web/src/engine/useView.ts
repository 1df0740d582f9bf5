import { useLocalStorage } from '@vueuse/core'
import { computed, readonly, ref, watch } from 'vue'

/** Bars that can be in view, as buttons; any number from 1 to 16 by wheel and keys. */
export const VIEWS = [1, 2, 4, 8, 16] as const
const MOST = 16

const bars = useLocalStorage<number>('jolly-lattice-bars-in-view', 2)
const firstBar = ref(0)
const window = computed(() => ({ first_bar: firstBar.value, bars: bars.value }))
/** The bars in view on the lattice. */
export const viewed = readonly(window)

/** Which bars are in view. While it plays, the view turns its pages with the music, until a hand scrolls. */
export function useView(isPlaying: () => boolean) {
  const isFollowing = ref(true)

  watch(isPlaying, (plays) => {
    if (plays) isFollowing.value = true
  })

  /** Turn the page if the music has left it. */
  function follow(bar: number) {
    if (isFollowing.value && isPlaying()) firstBar.value = Math.floor(bar / bars.value) * bars.value
  }
  /** Show `count` bars; `around`: the bar that should stay in view. */
  function show(count: number, around = firstBar.value) {
    bars.value = Math.min(MOST, Math.max(1, count))
    if (isFollowing.value && isPlaying()) firstBar.value = Math.floor(around / bars.value) * bars.value
    else if (around >= firstBar.value + bars.value) firstBar.value = around - bars.value + 1
  }
  function scroll(by: number) {
    isFollowing.value = false
    firstBar.value = Math.max(0, firstBar.value + by)
  }
  const toggleFollowing = () => (isFollowing.value = !isFollowing.value)
  function begin() {
    firstBar.value = 0
    isFollowing.value = true
  }
  return { bars, firstBar, isFollowing, window, follow, show, scroll, toggleFollowing, begin }
}

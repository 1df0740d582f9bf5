/** The music as the lattice follows it: the view turns its pages, and the step that plays is known. */
import { ref, watch } from 'vue'

import type { LanePicture } from '@/api/client'
import type { useView } from '@/engine/useView'
import { usePlaying } from '@/playing/playing'
import { barOf } from '@/sound/time'

/** `picture`: of the lane whose step is wanted. `isHeld`: whether a hand needs the bars in view to stay. */
export function useFollowing(
  view: ReturnType<typeof useView>,
  picture: () => LanePicture | undefined,
  barTicks: () => number,
  isHeld: () => boolean,
) {
  const playing = usePlaying()
  /** Which of the steps in view plays; -1: none. */
  const nowStep = ref(-1)
  function follow(tick: number) {
    // An open menu and chosen steps stay where they are: the page turns once the hand is done with them.
    if (playing.isPlaying && !isHeld() && !document.querySelector('.v-overlay--active .card'))
      view.follow(barOf(tick, barTicks()))
    const starts = picture()?.starts
    nowStep.value = starts && playing.isPlaying ? starts.findLastIndex((start) => start <= tick) : -1
  }
  watch(
    () => playing.isPlaying,
    (plays) => {
      if (plays) view.isFollowing = true
      else nowStep.value = -1
    },
  )
  return { nowStep, follow }
}

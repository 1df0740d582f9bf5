/** Where what is moved while it plays has come, for the big control that has hold of it. */
import { ref, type Ref } from 'vue'

import type { Rendering } from '@/api/client'
import { useFrames } from '@/page/useFrames'
import { usePlaying } from '@/playing/playing'
import type { ControlHandle } from './controlHandles'

/** `rendering`: what is drawn now. `passed`: told the tick that the music has come to. */
export function useMovingHands(
  rendering: Readonly<Ref<Rendering | null>>,
  passed: (tick: number, barTicks: number) => void,
) {
  const playing = usePlaying()
  const now = ref(0)
  useFrames(
    () => {
      now.value = playing.player?.nowTick ?? 0
      if (rendering.value) passed(now.value, rendering.value.bar_ticks)
    },
    () => playing.isPlaying,
    () => [playing.player, rendering.value],
    20,
  )
  /** How far along it is and what that says; null where nothing moves it. */
  function movingAt(hold: ControlHandle | null): { share: number; says: string } | null {
    if (!playing.isPlaying || !hold?.laneId) return null
    const shown = rendering.value?.lanes
      .find(({ id }) => id === hold.laneId)
      ?.movements.find(({ control, off }) => control === hold.control.field && !off)
    const at = shown?.ticks.findLastIndex((tick) => tick <= now.value) ?? -1
    return shown && at >= 0 ? { share: shown.shares[at] ?? 0, says: shown.says[at] ?? '' } : null
  }
  const saidOf = (hold: ControlHandle): string =>
    movingAt(hold)?.says ??
    (hold.value === null
      ? hold.isHere
        ? 'nothing to move'
        : 'not in this pattern'
      : (hold.control.options[hold.value]?.says ?? `${hold.value}${hold.control.unit}`))
  return { movingAt, saidOf }
}

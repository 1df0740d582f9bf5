/** Painting steps: all that one stroke touches become what its first step became. */
import type { Lane, LanePicture } from '@/api/client'
import { newGesture } from '@/page/gesture'

export function useStroke(
  set: (lane: Lane, picture: LanePicture, steps: readonly number[], isHit: boolean, gesture: string) => void,
) {
  let stroke: { picture: LanePicture; isHit: boolean; steps: Set<number>; gesture: string } | null = null

  /** `isHit`: whether the step is one where it was touched. */
  function press(lane: Lane, picture: LanePicture, step: number, isHit: boolean) {
    stroke = { picture, isHit: !isHit, steps: new Set(), gesture: newGesture('stroke') }
    paint(lane, step, isHit)
  }
  function paint(lane: Lane, step: number, isHit: boolean) {
    if (!stroke || stroke.steps.has(step) || isHit === stroke.isHit) return
    stroke.steps.add(step)
    set(lane, stroke.picture, [...stroke.steps], stroke.isHit, stroke.gesture)
  }
  const release = () => (stroke = null)
  return { press, paint, release }
}

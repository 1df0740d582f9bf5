import { useRafFn } from '@vueuse/core'
import { watch } from 'vue'

/**
 * Draw at every frame while it runs, and once whenever what it shows changes. Stops with its scope.
 * `changes`: reads all that is shown. `fpsLimit`: frames a second. @default the screen's
 */
export function useFrames(
  draw: () => void,
  isRunning: () => boolean,
  changes: () => unknown,
  fpsLimit?: number,
) {
  const { pause, resume } = useRafFn(draw, { immediate: false, ...(fpsLimit !== undefined && { fpsLimit }) })
  watch(
    () => [isRunning(), changes()],
    () => {
      draw()
      if (isRunning()) resume()
      else pause()
    },
    { immediate: true, flush: 'post' },
  )
}

/** A canvas of so many CSS pixels, as sharp as the screen. */
export function canvasOf(width: number, height: number) {
  const pixel = window.devicePixelRatio
  return {
    width: width * pixel,
    height: height * pixel,
    style: { width: `${width}px`, height: `${height}px` },
  }
}

/** A number under a hand: dragged, stepped with arrows and page keys, taken to its ends with Home and End, turned with the wheel. */
import { newGesture } from './gesture'
import { useDrag } from './useDrag'

interface Dragged {
  /** Pixels from where it was taken hold of. */
  readonly right: number
  readonly up: number
  /** With Shift held. */
  readonly isSlow: boolean
  /** Of the slider's element. */
  readonly width: number
}
interface Slider {
  /** What its gestures are called. */
  readonly name: string
  /** What it is now; null: there is nothing to move. */
  value(): number | null
  min(): number
  max(): number
  /** By how much a drag moves it. */
  unitsOf(drag: Dragged): number
  /** `gesture` is the same for all steps of one movement of the hand. */
  move(value: number, gesture: string): unknown
  /** Escape: the gesture is taken back. */
  cancel?(gesture: string): unknown
  /** What Delete sets. */
  readonly plain?: number
  /** By how much up and down move it. @default 1 */
  readonly coarse?: number
}

/** Pixels that a drag has to go before it moves anything. */
const DEAD = 3

/** Bind `on` to the element, and where it may be turned `onWheel`. */
export function useSlider(slider: Slider) {
  let gesture = ''
  const begin = () => (gesture = newGesture(slider.name))

  function moveTo(value: number) {
    const now = slider.value()
    const wanted = Math.round(Math.min(slider.max(), Math.max(slider.min(), value)))
    if (now !== null && wanted !== now) slider.move(wanted, gesture)
  }
  const drag = useDrag((event) => {
    const from = slider.value()
    if (from === null || !(event.currentTarget instanceof HTMLElement)) return null
    event.preventDefault()
    event.currentTarget.focus({ preventScroll: true })
    begin()
    const { clientX, clientY } = event
    const { width } = event.currentTarget.getBoundingClientRect()
    let moves = false
    return {
      move(to) {
        const [right, up] = [to.clientX - clientX, clientY - to.clientY]
        moves ||= Math.hypot(right, up) > DEAD
        if (moves) moveTo(from + slider.unitsOf({ right, up, isSlow: to.shiftKey, width }))
      },
      end: begin,
    }
  })
  const share = (parts: number) => Math.max(1, Math.round((slider.max() - slider.min()) / parts))
  function onWheel(event: WheelEvent) {
    begin()
    const by = event.shiftKey ? 1 : share(60)
    moveTo((slider.value() ?? 0) - Math.sign(event.deltaY) * by)
  }
  function onKeydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.altKey || event.metaKey) return
    if (event.key === 'Escape') slider.cancel?.(gesture)
    const now = slider.value() ?? 0
    const { coarse = 1 } = slider
    const to = {
      ArrowUp: now + coarse,
      ArrowDown: now - coarse,
      ArrowRight: now + 1,
      ArrowLeft: now - 1,
      PageUp: now + share(10),
      PageDown: now - share(10),
      Home: slider.min(),
      End: slider.max(),
      Delete: slider.plain,
      Backspace: slider.plain,
    }[event.key]
    if (to === undefined) return
    event.preventDefault()
    event.stopPropagation()
    if (!event.repeat) begin()
    moveTo(to)
  }
  return { on: { ...drag.on, onKeydown }, onWheel }
}

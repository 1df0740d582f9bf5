/** Following a pointer from where it went down, wherever it goes, until it is let go of or taken away. */

/** What a hand holds. */
export interface Held {
  move(event: PointerEvent): void
  /** `hasMoved`: by more than a hand trembles. */
  end?(hasMoved: boolean): unknown
}

/** Pixels that a hand trembles. */
const STILL = 2

/** `take`: what a press of the main button takes hold of; null for nothing. Bind `on` to the element: `v-bind="drag.on"`. */
export function useDrag(take: (event: PointerEvent) => Held | null) {
  let held: { hold: Held; x: number; y: number; hasMoved: boolean } | null = null

  function letGo() {
    const last = held
    held = null
    last?.hold.end?.(last.hasMoved)
  }
  function onPointerdown(event: PointerEvent) {
    if (event.button !== 0) return
    letGo()
    const hold = take(event)
    if (!hold) return
    held = { hold, x: event.clientX, y: event.clientY, hasMoved: false }
    if (event.currentTarget instanceof Element) event.currentTarget.setPointerCapture(event.pointerId)
  }
  function onPointermove(event: PointerEvent) {
    if (!held) return
    held.hasMoved ||= Math.hypot(event.clientX - held.x, event.clientY - held.y) > STILL
    held.hold.move(event)
  }
  /** Let go of what is held as if it had never been taken. */
  const drop = () => (held = null)
  const on = { onPointerdown, onPointermove, onPointerup: letGo, onPointercancel: letGo }
  return { on, drop, isHeld: () => held !== null }
}

/** Following a pointer from where it went down, wherever it goes, until it is let go of or taken away. */

/** What a hand holds. */
export interface Held {
  move(event: PointerEvent): void
  /** `isTakenAway`: by the browser, for a scroll say, rather than let go of. */
  end?(isTakenAway: boolean): unknown
}

/** `take`: what a press of the main button takes hold of; null for nothing. Bind `on` to the element: `v-bind="drag.on"`. */
export function useDrag(take: (event: PointerEvent) => Held | null) {
  let held: Held | null = null

  function letGo(isTakenAway: boolean) {
    const last = held
    held = null
    last?.end?.(isTakenAway)
  }
  function onPointerdown(event: PointerEvent) {
    if (event.button !== 0) return
    letGo(true)
    held = take(event)
    if (held && event.currentTarget instanceof Element) event.currentTarget.setPointerCapture(event.pointerId)
  }
  const on = {
    onPointerdown,
    onPointermove: (event: PointerEvent) => held?.move(event),
    onPointerup: () => letGo(false),
    onPointercancel: () => letGo(true),
  }
  /** Let go of what is held as if it had never been taken. */
  const drop = () => (held = null)
  return { on, drop, isHeld: () => held !== null }
}

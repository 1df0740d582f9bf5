/** Detours under the hand: a button of a kind holds it for as long as it is pressed, by pointer, touch, Space or Enter. */
import { useEventListener } from '@vueuse/core'

import { useDetours, type Kind } from './useDetours'

/** Bind to the button of a kind: `v-bind="handsOn(kind)"`. `before`: told at a press of the pointer. Stops with its scope. */
export function useDetourHands(before: (kind: Kind) => unknown = () => undefined) {
  const detours = useDetours()
  function press(kind: Kind, event: PointerEvent) {
    if (event.button !== 0) return
    before(kind)
    if (event.currentTarget instanceof Element) event.currentTarget.setPointerCapture(event.pointerId)
    detours.holdChosen(event, kind)
  }
  function onKey(kind: Kind, event: KeyboardEvent) {
    if (event.key !== ' ' && event.key !== 'Enter') return
    event.preventDefault()
    event.stopPropagation()
    if (event.type === 'keyup') detours.letGo(kind, event)
    else if (!event.repeat) detours.holdChosen(event, kind)
  }
  // Wherever a hand lets go: nothing goes on that nobody holds.
  useEventListener(window, 'blur', (event) => detours.holding.forEach((kind) => detours.letGo(kind, event)))

  return (kind: Kind) => ({
    onPointerdown: (event: PointerEvent) => press(kind, event),
    onPointerup: (event: PointerEvent) => detours.letGo(kind, event),
    onPointercancel: (event: PointerEvent) => detours.letGo(kind, event),
    onKeydown: (event: KeyboardEvent) => onKey(kind, event),
    onKeyup: (event: KeyboardEvent) => onKey(kind, event),
  })
}

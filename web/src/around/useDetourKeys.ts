/** X held plays the detour at hand; Shift+X shows the kinds. */
import { useEventListener } from '@vueuse/core'

import { useShortcuts, useShortcutState, isFree } from '@/page/useShortcuts'
import { useDetours } from './useDetours'

export function useDetourKeys() {
  const detours = useDetours()
  const shortcuts = useShortcutState()
  let isDown = false
  useShortcuts({
    x: { says: 'Held: the detour at hand', act: () => undefined },
    'Shift+x': { says: 'The kinds of detour', act: () => (detours.isRowOpen = !detours.isRowOpen) },
  })
  useEventListener(window, 'keydown', (event) => {
    if (event.key !== 'x' || event.repeat || isDown || shortcuts.lettersPlay || !isFree(event)) return
    isDown = true
    detours.holdChosen(event)
  })
  useEventListener(window, 'keyup', (event) => {
    if (event.key.toLowerCase() !== 'x' || !isDown) return
    isDown = false
    detours.letGo(detours.kind, event)
  })
  useEventListener(window, 'blur', () => (isDown = false))
}

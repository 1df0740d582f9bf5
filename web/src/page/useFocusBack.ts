import { nextTick, onBeforeUnmount, watch, type Ref } from 'vue'

/** When the panel that calls this closes, the focus is where it was before it opened. */
export function useFocusBack() {
  const before = document.activeElement
  onBeforeUnmount(() => giveBack(before))
}

/** The same for a menu that stays mounted: `isOpen` says when it opens and closes. */
export function useFocusBackFrom(isOpen: Readonly<Ref<boolean>>) {
  let before: Element | null = isOpen.value ? document.activeElement : null
  watch(
    isOpen,
    (now) => {
      if (!now) return giveBack(before)
      before = document.activeElement
      if (before instanceof HTMLElement) before.blur() // until the menu takes it, no key is anybody else's
    },
    { flush: 'sync' },
  )
}

/** What is closing, and the focus with it. */
const CLOSING = '[data-focus-back], .v-overlay'

/**
 * After whatever the closing itself does with the focus, and before the next key. Where nothing had it, nothing has it
 * again.
 */
function giveBack(before: Element | null) {
  const now = document.activeElement
  if (now && now !== document.body && now !== before && !now.closest(CLOSING)) return // somebody else took it meanwhile
  void nextTick(nextTick).then(() => {
    const isThere = before instanceof HTMLElement && before.isConnected && before !== document.body
    if (isThere) before.focus({ preventScroll: true })
    else if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
  })
}

import { onBeforeUnmount } from 'vue'

/** When the panel that calls this closes, the focus is where it was before it opened. */
export function useFocusBack() {
  const before = document.activeElement
  onBeforeUnmount(() => {
    const now = document.activeElement
    // Somebody else took it meanwhile: it stays there.
    if (now && now !== document.body && !now.closest('[data-focus-back]')) return
    setTimeout(() => {
      if (before instanceof HTMLElement && before.isConnected && before !== document.body)
        before.focus({ preventScroll: true })
    })
  })
}

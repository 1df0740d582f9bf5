import { useEventListener } from '@vueuse/core'
import { onScopeDispose, ref, shallowReactive } from 'vue'

export interface Shortcut {
  /** What it does, for the list of all shortcuts; '' where another key's line says it. */
  readonly says: string
  readonly act: () => unknown
}

/** Keys as events name them, letters in lower case; "Ctrl+", "Alt+" and "Shift+" before them where they count. */
export type Shortcuts = Readonly<Record<string, Shortcut>>

/** While something else plays on the letters, only these still are shortcuts, and what Ctrl and the F keys do. */
export const lettersPlay = ref(false)
const STILL = /^( |Escape|(Shift\+|Alt\+)?Arrow\w+|F\d+|Ctrl\+.*|\?)$/

/** What works now, by key: the newest screen last. */
export const activeShortcuts = shallowReactive<Shortcuts[]>([])

/** Give keys a meaning for as long as the scope lives. They never fire while typing in a field. */
export function useShortcuts(shortcuts: Shortcuts) {
  activeShortcuts.push(shortcuts)
  onScopeDispose(() => activeShortcuts.splice(activeShortcuts.indexOf(shortcuts), 1))
  useEventListener(window, 'keydown', (event) => {
    const name = nameOf(event)
    const shortcut = lettersPlay.value && !STILL.test(name) ? undefined : shortcuts[name]
    if (!shortcut || event.defaultPrevented || isOwned(event)) return
    event.preventDefault()
    shortcut.act()
  })
}

export function nameOf({ key, ctrlKey, metaKey, shiftKey, altKey }: KeyboardEvent): string {
  const isLetter = key.length === 1
  const name = isLetter ? key.toLowerCase() : key
  const shift = shiftKey && (!isLetter || /[a-z]/i.test(key)) ? 'Shift+' : ''
  return `${ctrlKey || metaKey ? 'Ctrl+' : ''}${altKey ? 'Alt+' : ''}${shift}${name}`
}

/** Whether the key belongs to what has the focus: a field all keys, a part of a sentence arrows, digits and Delete. */
function isOwned(event: KeyboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : null
  if (target?.closest('input:not([type=range]), textarea, [contenteditable=true], .v-overlay'))
    return !(event.ctrlKey && event.key === 'z' && !target.closest('input, textarea'))
  if (target?.closest('[data-owns-keys]'))
    return /^(Arrow|Page)|^(Home|End|Delete|Backspace|Enter|[\d+-])$/.test(event.key)
  // Enter and Space press the button that has the focus, except that Space always plays and stops.
  return event.key === 'Enter' && target?.closest('button, a') !== null && target !== document.body
}

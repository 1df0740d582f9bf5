import { useEventListener } from '@vueuse/core'
import { defineStore } from 'pinia'
import { onScopeDispose, ref, shallowReactive } from 'vue'

/** What an act returns that has no use for its key now: whoever else has one may have it. */
export const PASS = Symbol('pass')

export interface Shortcut {
  /** What it does, for the list of all shortcuts; '' where another key's line says it. */
  readonly says: string
  readonly act: () => unknown
}

/** Keys as events name them, letters in lower case; "Ctrl+", "Alt+" and "Shift+" before them where they count. */
export type Shortcuts = Readonly<Record<string, Shortcut>>

export const useShortcutState = defineStore('shortcuts', () => {
  /** What works now, by key: the newest screen last. */
  const active = shallowReactive<Shortcuts[]>([])
  /** Whether something else plays on the letters. */
  const lettersPlay = ref(false)
  /** Whether help is open, the list of all shortcuts in it. */
  const isHelpOpen = ref(false)
  /** Whether the next digit says how many bars to keep. */
  const digitsMeanBars = ref(false)
  return { active, lettersPlay, isHelpOpen, digitsMeanBars }
})
/** What still is a shortcut while the letters play, with what Ctrl and Alt with digits do. */
const STILL = /^( |(Shift\+)?Escape|(Shift\+|Alt\+)?Arrow\w+|Alt\+\d|Ctrl\+.*|\?)$/

/** What works wherever one is: silence. */
const EMERGENCY = 'Shift+Escape'

/** Give keys a meaning for as long as the scope lives. They never fire while typing in a field. */
export function useShortcuts(shortcuts: Shortcuts) {
  const state = useShortcutState()
  state.active.push(shortcuts)
  onScopeDispose(() => state.active.splice(state.active.indexOf(shortcuts), 1))
  useEventListener(window, 'pointerdown', () => (wentByKeyboard = false), { capture: true })
  useEventListener(window, 'keydown', (event) => {
    if (event.key === 'Tab') wentByKeyboard = true
    if (givesBack(event)) return
    const name = nameOf(event)
    const shortcut = state.lettersPlay && !STILL.test(name) ? undefined : shortcuts[name]
    if (!shortcut || (name !== EMERGENCY && (event.defaultPrevented || isOwned(event)))) return
    if (shortcut.act() !== PASS) event.preventDefault()
  })
}

export function nameOf({ key, code, ctrlKey, metaKey, shiftKey, altKey }: KeyboardEvent): string {
  const isLetter = key.length === 1
  // With Alt some keyboards write another sign on a digit's key: there its place counts.
  const digit = altKey ? /^Digit(\d)$/.exec(code)?.[1] : undefined
  const name = digit ?? (isLetter ? key.toLowerCase() : key)
  const shift = shiftKey && (!isLetter || /[a-z]/i.test(key)) ? 'Shift+' : ''
  return `${ctrlKey || metaKey ? 'Ctrl+' : ''}${altKey ? 'Alt+' : ''}${shift}${name}`
}

/**
 * Whether the key belongs to what has the focus: fields and lists all keys, sliders arrows, a part of a sentence arrows,
 * digits and Delete, a button that the keyboard went to Enter and Space. One that was only clicked leaves Space to play.
 */
function isOwned(event: KeyboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : null
  if (!target || target === document.body) return false
  if (target.closest('input:not([type=range]), textarea, select, [contenteditable=true], .v-overlay'))
    return !(event.ctrlKey && event.key === 'z' && !target.closest('input, textarea'))
  if (target.closest('[data-owns-keys]') && OF_A_PART.test(event.key)) return true
  if (target.closest('input[type=range]')) return OF_A_SLIDER.test(event.key)
  if (!target.closest('button, a, summary, [role=button]')) return false
  return event.key === 'Enter' || (event.key === ' ' && wentByKeyboard)
}
/** Whether a key that is held, not struck, belongs to nobody else: for what `useShortcuts` cannot say. */
export const isFree = (event: KeyboardEvent): boolean =>
  !event.ctrlKey && !event.metaKey && !event.altKey && !isOwned(event)

/** Give back the keys that a part owns: what is pressed next is a shortcut. */
export function giveBackKeys() {
  const target = document.activeElement
  if (target instanceof HTMLElement && target.closest(OWNERS)) target.blur()
}

/** Escape gives the keys back that a part owns, unless the part, or what it has opened, has a use for it. */
function givesBack(event: KeyboardEvent): boolean {
  if (event.key !== 'Escape' || event.shiftKey || event.defaultPrevented) return false
  if (!(event.target instanceof HTMLElement)) return false
  const owner = event.target.closest<HTMLElement>(OWNERS)
  if (!owner || owner.getAttribute('aria-expanded') === 'true') return false
  event.preventDefault()
  giveBackKeys()
  return true
}
/** Whether the keyboard brought the focus where it is. `:focus-visible` would say so after any key that is pressed there. */
let wentByKeyboard = false
const OWNERS = '[data-owns-keys], input[type=range]'
const OF_A_PART = /^(Arrow|Page)|^(Home|End|Delete|Backspace|Enter|[\d+-])$/
const OF_A_SLIDER = /^(Arrow|Page)|^(Home|End)$/

import type { Directive } from 'vue'

interface Field {
  /** What the field was given to show, and what it shows unless somebody has typed into it. */
  given: string
  shows: string
}
const fields = new WeakMap<HTMLInputElement, Field>()

/** Nobody has typed into it, or what was typed has been taken. */
const isFree = (element: HTMLInputElement) =>
  document.activeElement !== element || element.value === fields.get(element)?.shows
function show(element: HTMLInputElement, given: string) {
  element.value = given
  fields.set(element, { given, shows: element.value })
}

/** `v-shown="value"`: a field shows the value, but what somebody is typing there stays until it is taken or left. */
export const vShown: Directive<HTMLInputElement, string | number> = {
  mounted(element, { value }) {
    show(element, String(value))
    // What is taken may come back as something else.
    element.addEventListener('change', () => {
      const field = fields.get(element)
      if (field) field.shows = element.value
    })
    element.addEventListener('blur', () => {
      const field = fields.get(element)
      if (field && field.shows !== element.value) show(element, field.given)
    })
  },
  updated(element, { value }) {
    const field = fields.get(element)
    if (!field || field.given === String(value)) return
    if (isFree(element)) show(element, String(value))
    else field.given = String(value)
  },
}

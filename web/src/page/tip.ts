import { shallowReactive, type Directive } from 'vue'

const texts = shallowReactive(new WeakMap<Element, string>())

/** What the tip of a control says now; '' where it has none. */
export const tipOf = (of: Element): string => texts.get(of) ?? ''

/** `v-tip="text"`: what a control does, in music. There is one tip for all: see TipLayer. */
export const vTip: Directive<Element, string> = {
  mounted: (of, { value }) => take(of, value),
  updated: (of, { value }) => take(of, value),
}
function take(of: Element, text: string) {
  if (texts.get(of) === text) return
  texts.set(of, text)
  of.toggleAttribute('data-tip', text !== '')
}

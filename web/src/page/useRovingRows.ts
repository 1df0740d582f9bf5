/** Rows of controls that are one stop of the Tab key: the row at hand is; from its buttons, up and down go to the others. */
import { computed, ref, toValue, type MaybeRefOrGetter } from 'vue'

const ROW = '[data-row]'
const CONTROLS = 'button, input, select, [tabindex]'

/** `ids`: of the rows, in their order; each of them carries its id as data-row. `keys`: to the row before, and after. */
export function useRovingRows(
  ids: MaybeRefOrGetter<readonly string[]>,
  [before, after] = ['ArrowUp', 'ArrowDown'],
) {
  const entered = ref('')
  const here = computed(() => {
    const all = toValue(ids)
    return all.includes(entered.value) ? entered.value : all[0]
  })
  const rowAt = (target: EventTarget | null) =>
    target instanceof Element ? target.closest<HTMLElement>(ROW) : null

  function onFocusin({ target }: FocusEvent) {
    entered.value = rowAt(target)?.dataset['row'] ?? entered.value
  }
  function onKeydown(event: KeyboardEvent) {
    const by = event.key === after ? 1 : event.key === before ? -1 : 0
    const { target, currentTarget, ctrlKey, altKey, metaKey, defaultPrevented } = event
    const row = rowAt(target)
    // Fields, lists and numbers have a use of their own for these keys.
    const isButton = target instanceof Element && target.tagName === 'BUTTON'
    if (!by || !row || !isButton || defaultPrevented || ctrlKey || altKey || metaKey) return
    if (!(currentTarget instanceof Element)) return
    const rows = [...currentTarget.querySelectorAll<HTMLElement>(ROW)]
    const next = rows[rows.indexOf(row) + by]
    event.preventDefault()
    event.stopPropagation()
    // The same control of that row, or the last that it has.
    const place = [...row.querySelectorAll(CONTROLS)].indexOf(target)
    const controls = next?.querySelectorAll<HTMLElement>(CONTROLS)
    controls?.[Math.min(place, controls.length - 1)]?.focus()
  }
  return {
    /** What the element that holds the rows listens to. */
    on: { onFocusin, onKeydown },
    /** Whether a row is the stop; the tabindex of its controls. */
    isStop: (id: string): boolean => id === here.value,
    stopOf: (id: string): 0 | -1 => (id === here.value ? 0 : -1),
  }
}

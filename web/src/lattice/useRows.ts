/** Where the lanes' rows lie: their heights, the middles of their threads, the high one, and moving a row by its grip. */
import { useEventListener, useResizeObserver, useTimeoutFn } from '@vueuse/core'
import { ref, shallowRef, watch, type Ref } from 'vue'

export function useRows(
  stack: Readonly<Ref<HTMLElement | null>>,
  rows: Readonly<Ref<HTMLElement[] | null>>,
  order: () => string,
  chosen: () => string | null,
) {
  const heights = shallowRef<ReadonlyMap<string, number>>(new Map())
  const middles = shallowRef<ReadonlyMap<string, number>>(new Map())
  const total = ref(0)

  const placed = () =>
    [...(rows.value ?? [])]
      .map((row) => ({ id: row.dataset['lane'] ?? '', top: row.offsetTop, height: row.offsetHeight }))
      .sort((one, other) => one.top - other.top)

  function measure() {
    const all = placed()
    heights.value = new Map(all.map(({ id, height }) => [id, height]))
    middles.value = new Map(all.map(({ id, top, height }) => [id, top + height / 2]))
    total.value = Math.max(0, ...all.map(({ top, height }) => top + height), stack.value?.scrollHeight ?? 0)
  }
  // Reading heights costs a layout: only when a row may have another one.
  useResizeObserver(rows as Ref<HTMLElement[]>, measure)
  watch(order, measure, { flush: 'post' })

  /** Follow a pointer that holds a row, and say to which place it has come, until it lets go. */
  let moveTo: ((place: number) => void) | null = null
  const hold = (act: (place: number) => void) => (moveTo = act)
  useEventListener('pointermove', (event: PointerEvent) => {
    if (!moveTo || !stack.value) return
    const y = event.clientY - stack.value.getBoundingClientRect().top
    const all = placed()
    const place = all.findIndex(({ top, height }) => y < top + height)
    moveTo(place < 0 ? all.length - 1 : place)
  })
  useEventListener(['pointerup', 'pointercancel'], () => (moveTo = null))

  /** The row that is higher than the others. It changes only once the hand is off: nothing moves away under it. */
  const high = ref<string | null>(null)
  let isPressed = false
  const settle = () => {
    high.value = chosen()
  }
  const { start: settleSoon } = useTimeoutFn(settle, 0, { immediate: false })
  useEventListener('pointerdown', () => (isPressed = true), { capture: true })
  useEventListener(
    ['pointerup', 'pointercancel'],
    () => {
      isPressed = false
      settleSoon() // after the click that belongs to it
    },
    { capture: true },
  )
  watch(chosen, () => isPressed || settle(), { immediate: true })

  return { heights, middles, total, high, hold }
}

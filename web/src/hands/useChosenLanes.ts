/** Which lanes are chosen, the one whose bench is shown first; and on which of its steps the keyboard is. */
import { computed, ref, watch, type ComputedRef } from 'vue'

import type { Lane } from '@/api/client'

export function useChosenLanes(lanes: () => readonly Lane[]) {
  const ids = ref<readonly string[]>([])
  const cursor = ref<number | null>(null)
  const knownIds = computed(() => new Set(lanes().map(({ id }) => id)))
  /** In the order of the pattern. */
  const chosen: ComputedRef<readonly Lane[]> = computed(() =>
    lanes().filter(({ id }) => ids.value.includes(id)),
  )
  const first = computed<Lane | null>(() => lanes().find(({ id }) => id === ids.value[0]) ?? null)
  const isChosen = (id: string) => ids.value.includes(id)

  // What is gone cannot stay chosen, and while there are lanes one of them is.
  watch(
    knownIds,
    (now, before) => {
      const left = ids.value.filter((id) => now.has(id))
      if (left.length === ids.value.length && left.length) return
      const place = before ? [...before].indexOf(ids.value[0] ?? '') : 0
      const next = lanes()[Math.min(Math.max(0, place), lanes().length - 1)]
      ids.value = left.length ? left : next ? [next.id] : []
      cursor.value = null
    },
    { immediate: true },
  )

  function choose(id: string | null) {
    if (id !== ids.value[0]) cursor.value = null
    ids.value = id === null ? [] : [id]
  }
  /** A touch on a lane: with Ctrl one more or one less, with Shift all up to it; else it alone. */
  function touch(id: string, { ctrlKey, metaKey, shiftKey }: Modifiers = {}) {
    if (ctrlKey || metaKey) {
      const others = ids.value.filter((one) => one !== id)
      ids.value = isChosen(id) && others.length ? others : [id, ...others]
    } else if (shiftKey) extendTo(id)
    else choose(id)
  }
  function extendTo(id: string) {
    const all = lanes().map((lane) => lane.id)
    const [from, to] = [all.indexOf(ids.value.at(-1) ?? id), all.indexOf(id)]
    const between = all.slice(Math.min(from, to), Math.max(from, to) + 1)
    // The one that was touched comes first, the one it began from stays last.
    ids.value = from <= to ? between.reverse() : between
  }
  const neighbour = (by: number) => {
    const at = lanes().findIndex(({ id }) => id === ids.value[0])
    return lanes()[Math.min(lanes().length - 1, Math.max(0, at + by))]?.id ?? null
  }
  const walk = (by: number) => choose(neighbour(by))
  function extend(by: number) {
    const id = neighbour(by)
    if (id) extendTo(id)
  }
  const onlyFirst = () => choose(ids.value[0] ?? null)

  return { ids, cursor, chosen, first, isChosen, choose, touch, walk, extend, onlyFirst }
}

interface Modifiers {
  ctrlKey?: boolean
  metaKey?: boolean
  shiftKey?: boolean
}

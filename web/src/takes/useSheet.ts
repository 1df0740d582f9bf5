/** The sheet of takes that lies open: its takes and their notes, fetched some at a time so that progress is seen. */
import { computed, shallowRef, watch, type MaybeRefOrGetter, toValue } from 'vue'

import { takesApi, type DrawnTake, type OpenSheet } from '@/api/takes'
import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'

const AT_ONCE = 12
const SIDE_BY_SIDE = 2

export function useSheet(id: MaybeRefOrGetter<number | null>) {
  const notices = useNotices()
  const sheet = shallowRef<OpenSheet | null>(null)
  const drawn = shallowRef<ReadonlyMap<number, DrawnTake>>(new Map())
  const newest = useNewest()

  const takes = computed(() =>
    (sheet.value?.takes ?? []).flatMap(({ number }) => drawn.value.get(number) ?? []),
  )
  /** How many of the takes are here, for the progress; null when all are. */
  const progress = computed(() => {
    const total = sheet.value?.takes.length ?? 0
    return takes.value.length < total ? { done: takes.value.length, total } : null
  })

  async function open(sheetId: number | null) {
    if (sheetId === null || sheetId !== sheet.value?.sheet.id) {
      sheet.value = null
      drawn.value = new Map()
    }
    if (sheetId === null) return newest.cancel()
    try {
      await newest.ask(async (signal) => {
        const opened = await takesApi.open(sheetId)
        if (!signal.aborted) await layOpen(opened, signal)
      })
    } catch (reason) {
      notices.complain(reason, { label: 'Try again', act: () => open(sheetId) })
    }
  }
  /** Lay a sheet open and fetch the notes that are not here yet. */
  const take = (found: OpenSheet) => newest.ask((signal) => layOpen(found, signal))

  async function layOpen(found: OpenSheet, signal: AbortSignal) {
    // Other throws, other notes.
    if (sheet.value?.sheet.id === found.sheet.id && sheet.value.vary !== found.vary) drawn.value = new Map()
    sheet.value = found
    const missing = found.takes.map(({ number }) => number).filter((number) => !drawn.value.has(number))
    const batches: number[][] = []
    while (missing.length) batches.push(missing.splice(0, AT_ONCE))
    const fetchNext = async (): Promise<void> => {
      const batch = batches.shift()
      if (!batch || signal.aborted) return
      const fresh = await takesApi.drawn(found.sheet.id, batch[0] ?? 1, batch.at(-1) ?? 1)
      if (signal.aborted) return
      drawn.value = new Map([...drawn.value, ...fresh.map((one) => [one.number, one] as const)])
      // An answer holds as many notes as it may: what is missing of it is asked for next.
      const left = batch.filter((number) => !drawn.value.has(number))
      if (fresh.length && left.length) batches.unshift(left)
      return fetchNext()
    }
    await Promise.all(Array.from({ length: SIDE_BY_SIDE }, fetchNext))
  }

  watch(() => toValue(id), open, { immediate: true })
  return { sheet, takes, drawn, progress, open, take }
}

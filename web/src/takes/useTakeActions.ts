/** What is done to the takes of the sheet that lies open: kept, dropped, thrown, varied; and to the sheet itself. */
import type { Ref } from 'vue'
import { useRouter } from 'vue-router'

import { takesApi, type OpenSheet, type SheetLine } from '@/api/takes'
import { useNotices } from '@/page/notices'
import { placeClip } from '@/playing/clipsInPlace'
import { useLoops } from '@/playing/loops'
import type { useSheet } from './useSheet'

interface Context {
  id(): number | null
  readonly sheet: ReturnType<typeof useSheet>
  readonly sheets: Readonly<Ref<readonly SheetLine[]>>
  readSheets(): Promise<unknown>
  /** What a take loops as. */
  nameOf(number: number): string
}

export function useTakeActions({ id, sheet, sheets, readSheets, nameOf }: Context) {
  const router = useRouter()
  const notices = useNotices()
  const loops = useLoops()

  async function keep(number: number) {
    const sheetId = id()
    if (sheetId === null) return
    try {
      const kept = await takesApi.keep(sheetId, number)
      notices.say(
        `Kept “${kept.name}”.`,
        { label: 'Play in place', act: () => placeClip(kept.id, kept.name) },
        { label: 'Open', act: () => router.push(`/clips/${kept.id}`) },
      )
      await sheet.open(id())
    } catch (reason) {
      notices.complain(reason, { label: 'Try again', act: () => keep(number) })
    }
  }
  /** Do something to the sheet that lies open; nothing where none does. */
  const withSheet = (act: (sheetId: number) => Promise<unknown>) => {
    const sheetId = id()
    if (sheetId !== null) return notices.attempt(() => act(sheetId))
    return undefined
  }
  const drop = (number: number) =>
    withSheet(async (sheetId) => {
      await takesApi.drop(sheetId, number)
      if (loops.looping === nameOf(number)) loops.stop()
      await sheet.open(sheetId)
      await readSheets()
      const pickUp = async () => show(await takesApi.pickUp(sheetId, number))
      notices.say(`Take ${number} is dropped.`, { label: 'Undo', act: pickUp })
    })
  const throwMore = (count: number) => withSheet(async (sheetId) => show(await takesApi.more(sheetId, count)))
  const vary = (percent: number) =>
    withSheet(async (sheetId) => {
      loops.stop()
      await show(await takesApi.vary(sheetId, percent))
    })
  async function show(found: OpenSheet) {
    void readSheets()
    if (found.sheet.id === id()) await sheet.take(found)
  }
  const remove = (line: SheetLine) =>
    notices.attempt(async () => {
      await takesApi.delete(line.id)
      await readSheets()
      loops.stop()
      notices.say(`The takes of ${line.piece}, pattern ${line.pattern}, are deleted.`, {
        label: 'Undo',
        act: async () => {
          await takesApi.restore(line.id)
          await readSheets()
          await router.push(`/takes/${line.id}`)
        },
      })
      const next = sheets.value[0]
      await router.push(next ? `/takes/${next.id}` : '/takes')
    })

  return { keep, drop, throwMore, vary, remove }
}

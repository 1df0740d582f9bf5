/** Which notes of a clip are chosen, by the row or all at once; copied from it, and pasted. */
import type { Ref } from 'vue'

import type { Schemas } from '@/api/client'
import { useNotices } from '@/page/notices'
import { chosenNotes, useCopied } from './copied'
import type { rowsOf } from './layout'

/** `chosen`: the places of notes, track by track. */
export function useChoosing(
  clip: () => Schemas['Clip'] | null,
  chosen: Ref<readonly (readonly number[])[]>,
  rows: () => ReturnType<typeof rowsOf>,
) {
  const notices = useNotices()
  const copied = useCopied()
  const tracks = () => clip()?.tracks ?? []

  function chooseAll() {
    chosen.value = tracks().map(({ notes }) => notes.map((_, at) => at))
  }
  /** Choose the notes of a row; `isMore`: beside those that are. Returns the track that the row is of, if it is of one. */
  function chooseRow(row: number, isMore: boolean): number | null {
    const { track, pitch } = rows()[row] ?? { track: null, pitch: null }
    const matches = tracks().map(({ notes }, at) =>
      notes.flatMap((note, place) => ((track === null ? note[2] === pitch : at === track) ? [place] : [])),
    )
    chosen.value = isMore
      ? matches.map((places, at) => [...new Set([...(chosen.value[at] ?? []), ...places])])
      : matches
    return track
  }
  function copy() {
    const document = clip()
    const notes = document ? chosenNotes(document, chosen.value) : []
    if (!notes.length) return
    copied.notes = notes
    notices.say(`${notes.length} ${notes.length === 1 ? 'note' : 'notes'} copied.`)
  }
  return { copied, chooseAll, chooseRow, copy }
}

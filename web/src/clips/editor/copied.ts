/** What was copied last: of any clip, so that notes go from one to another. Lives as long as the page. */
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

import type { Schemas } from '@/api/client'

type Copied = Schemas['CopiedNote']

export const useCopied = defineStore('copied notes', () => ({ notes: shallowRef<readonly Copied[]>([]) }))

/** The chosen notes as they are, each with the number of its track. */
export function chosenNotes({ tracks }: Schemas['Clip'], chosen: readonly (readonly number[])[]): Copied[] {
  return tracks.flatMap(({ notes }, track) =>
    (chosen[track] ?? []).flatMap((place): Copied[] => {
      const note = notes[place]
      return note ? [[track, ...note]] : []
    }),
  )
}

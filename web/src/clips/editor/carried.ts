/** Notes that are meant by their places in a clip, after an edit of it: hands may be ahead of the engine's answers. */
import type { Action } from '@/api/clips'
import type { Schemas } from '@/api/client'
import { countOf } from './layout'

type Clip = Schemas['Clip']
export type Chosen = readonly (readonly number[])[]

/** What a clip became by an edit. */
export interface Became {
  readonly after: Clip
  /** The notes that it was about, and those that were chosen after it. */
  readonly sent: Chosen
  readonly now: Chosen
  /** For each note, counted through all tracks, which it was before; -1: new; null: each is the note that it was. */
  readonly cameFrom: readonly number[] | null
}
/** What is done, to which notes of which clip. */
export interface Meant {
  readonly clip: Clip
  readonly chosen: Chosen
  readonly action: Action
}

const firstsOf = ({ tracks }: Clip): number[] => {
  let count = 0
  return tracks.map(({ notes }) => (count += notes.length) - notes.length)
}
/** For each note of a track of what a clip became, what `of` says of the note that it was. */
function eachCarried<Said>(
  before: Clip,
  { after, cameFrom }: Became,
  of: (number: number) => Said,
): Said[][] {
  const firsts = firstsOf(after)
  const count = before.tracks.reduce((sum, { notes }) => sum + notes.length, 0)
  return after.tracks.map(({ notes }, track) =>
    notes.map((_, place) => {
      const at = (firsts[track] ?? 0) + place
      const was = cameFrom ? (cameFrom[at] ?? -1) : at
      return of(was < count ? was : -1)
    }),
  )
}

/** The same notes by their places in what the clip became; of those that the edit was about, the ones that it left chosen. */
export function carried(chosen: Chosen, before: Clip, became: Became): Chosen {
  if (chosen === became.sent) return became.now
  const firsts = firstsOf(before)
  const meant = new Set(
    chosen.flatMap((places, track) => places.map((place) => (firsts[track] ?? 0) + place)),
  )
  return eachCarried(before, became, (number) => meant.has(number)).map((are) =>
    are.flatMap((is, place) => (is ? [place] : [])),
  )
}

/** How many notes it is about; none: about all of them, or about none in particular. */
export const aboutHowMany = ({ action, chosen }: Meant): number =>
  action.kind === 'paint' ? (action.values?.length ?? 0) : countOf(chosen)

/** What was meant, as it is to be done to what the clip became. */
export function carriedMeaning({ clip, chosen, action }: Meant, became: Became): Meant {
  const there = { clip: became.after, chosen: countOf(chosen) ? carried(chosen, clip, became) : chosen }
  if (action.kind !== 'paint' || !action.values) return { ...there, action }
  const firsts = firstsOf(clip)
  const painted = new Map(
    action.values.map(([track, place, value]) => [(firsts[track] ?? 0) + place, value] as const),
  )
  const values = eachCarried(clip, became, (number) => painted.get(number)).flatMap((said, track) =>
    said.flatMap((value, place): [number, number, number][] =>
      value === undefined ? [] : [[track, place, value]],
    ),
  )
  return { ...there, action: { ...action, values } }
}

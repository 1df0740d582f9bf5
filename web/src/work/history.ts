/**
 * What was done to a piece, moment by moment, from the day it was made. Moments are only ever added: what is undone and then
 * left for something else stays in the list, behind a moment that says where the hand went back to.
 */
import type { Piece } from '@/api/client'

/**
 * `document`: as it was after the moment; null while it has not been fetched. `gesture`: the movement of the hand.
 * `heard`: and no more, a point of a field: a place of the trail that undoing passes by. `name`: the musician's.
 */
export interface Moment {
  readonly number: number
  readonly label: string
  readonly at: string | null
  readonly document: Piece | null
  readonly gesture: string | null
  readonly heard: boolean
  readonly name: string
}

/** `moments`: ascending, without gaps. `standsAt`: the number of the one whose document is on the table. */
export interface History {
  readonly moments: readonly Moment[]
  readonly standsAt: number
}

export const noHistory: History = { moments: [], standsAt: 0 }

const numbered = (history: History, number: number): Moment | undefined =>
  history.moments[number - (history.moments[0]?.number ?? 1)]
export const lastNumber = (history: History): number => history.moments.at(-1)?.number ?? history.standsAt

/** The last moment before that of `number` at which the piece stood. */
export const standingBefore = (history: History, number: number): Moment | undefined =>
  history.moments.findLast((moment) => moment.number < number && !moment.heard)

/** The moment that `gesture` made, if it is the last thing that was done. */
export function momentOf(history: History, gesture: string | null): Moment | null {
  const last = history.moments.at(-1)
  const isIts = gesture !== null && last?.gesture === gesture && last.number === history.standsAt
  return isIts ? last : null
}

/** The document that a change made by `gesture` starts from: the one before the gesture, if it goes on. */
export function baseOf(history: History, now: Piece, gesture: string | null): Piece {
  const moment = momentOf(history, gesture)
  return (moment && standingBefore(history, moment.number)?.document) ?? now
}

/** History after a change from `before` to `after`, and the moments that are new in it. */
export function remember(
  history: History,
  label: string,
  before: Piece,
  after: Piece,
  gesture: string | null,
): { history: History; fresh: readonly Moment[] } {
  const last = lastNumber(history)
  const here = numbered(history, history.standsAt)
  const goesOn = momentOf(history, gesture) !== null
  const fresh: Moment[] = []
  const add = (number: number, label: string, document: Piece, gesture: string | null) =>
    fresh.push(momentAs(number, label, document, gesture))
  if (goesOn) add(last, label, after, gesture)
  else {
    if (here && history.moments.some(({ number, heard }) => number > here.number && !heard))
      add(last + 1, `Back to: ${here.label}`, before, null)
    add(last + 1 + fresh.length, label, after, gesture)
  }
  // What this page starts from is at hand from now on: the next gesture may need it.
  const knownMoments = history.moments
    .slice(0, goesOn ? -1 : undefined)
    .map((moment) =>
      moment === here && !goesOn && !moment.document ? { ...moment, document: before } : moment,
    )
  return { history: { moments: [...knownMoments, ...fresh], standsAt: fresh.at(-1)?.number ?? last }, fresh }
}

const momentAs = (number: number, label: string, document: Piece, gesture: string | null, heard = false): Moment => ({
  number, label: label.slice(0, 200), at: new Date().toISOString(), document, gesture, heard, name: '',
}) // prettier-ignore

/** History after something was heard and left again: the piece stands where it stood. */
export function withHeard(
  history: History,
  label: string,
  document: Piece,
): { history: History; fresh: Moment } {
  const fresh = momentAs(lastNumber(history) + 1, label, document, null, true)
  return { history: { ...history, moments: [...history.moments, fresh] }, fresh }
}

export const withName = (history: History, number: number, name: string): History => ({
  ...history,
  moments: history.moments.map((moment) => (moment.number === number ? { ...moment, name } : moment)),
})

/** History without its last moment, at which it stands. */
export const withoutLast = (history: History): History => ({
  moments: history.moments.slice(0, -1),
  standsAt: standingBefore(history, history.standsAt)?.number ?? history.standsAt - 1,
})

/** The moment that lies `by` before (negative) or after the one that stands; null if there is none. */
export function momentBeside(history: History, by: -1 | 1): Moment | null {
  const { moments, standsAt } = history
  const beside =
    by < 0
      ? standingBefore(history, standsAt)
      : moments.find(({ number, heard }) => number > standsAt && !heard)
  return beside ?? null
}

/** History that stands at a moment, whose document is now known. */
export function standingAt(history: History, number: number, document: Piece): History {
  const moments = history.moments.map((moment) =>
    moment.number === number ? { ...moment, document, gesture: null } : moment,
  )
  return { moments, standsAt: number }
}

type Line = Pick<Moment, 'number' | 'label' | 'heard' | 'name'> & { readonly at: string }
/** The list as the server has it, with what is known here already. */
export function withLines(history: History, lines: readonly Line[]): History {
  const ours = new Map(history.moments.map((moment) => [moment.number, moment]))
  const theirs = lines.map((line) => ours.get(line.number) ?? { ...line, document: null, gesture: null })
  const newer = history.moments.filter(({ number }) => number > (lines.at(-1)?.number ?? 0))
  return { moments: [...theirs, ...newer], standsAt: history.standsAt }
}

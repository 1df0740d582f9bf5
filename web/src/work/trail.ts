/** The trail of the open piece: its moments one by one, gone back to, looked at, named. */
import { defineStore } from 'pinia'

import { answer, api, type Pattern, type Piece } from '@/api/client'
import { isSame } from '@/api/same'
import { useInTurn } from '@/page/asking'
import { useAudition } from './audition'
import { withPattern, withSilenceOf } from './document'
import { momentBeside, standingAt, withHeard, withName, type Moment } from './history'
import { usePiece } from './piece'

export const useTrail = defineStore('trail', () => {
  const piece = usePiece()
  const audition = useAudition()

  // One step through the history after the other: a document may have to be fetched first.
  const steps = useInTurn()
  const inTurn = async <Result>(act: () => Promise<Result>) => (await steps.run(act)) ?? null

  /** The place before the one that stands. */
  const before = () => momentBeside(piece.history, -1)

  /** Go back to before the last moment. Its name; null if there is none before it. */
  const undo = () =>
    inTurn(async () => {
      const undone = piece.history.moments.find(({ number }) => number === piece.history.standsAt)
      const earlier = before()
      return undone && earlier && (await stand(earlier)) ? undone.label : null
    })

  /** Do again what was undone last. Its name; null if there is nothing. */
  const redo = () =>
    inTurn(async () => {
      const next = momentBeside(piece.history, 1)
      return next && (await stand(next)) ? next.label : null
    })

  /** Go to any moment of the history. */
  const goTo = (moment: Moment) => inTurn(() => stand(moment))

  const placeAt = (pieceId: number, number: number) => ({ params: { path: { piece_id: pieceId, number } } })
  /** The document as it was at a moment. */
  async function documentAt(number: number): Promise<Piece | null> {
    const knownDocument = piece.history.moments.find((moment) => moment.number === number)?.document
    if (knownDocument || piece.id === null) return knownDocument ?? null
    return (await answer(api.GET('/api/pieces/{piece_id}/moments/{number}', placeAt(piece.id, number))))
      .document
  }
  const coverAt = (number: number) =>
    answer(api.GET('/api/pieces/{piece_id}/moments/{number}/cover', placeAt(piece.id ?? 0, number)))

  /** A place of the trail: something was heard on the pattern, and left again. */
  function rememberHeard(label: string, change: (pattern: Pattern) => Pattern) {
    const { document, pattern } = piece
    if (!document || !pattern) return
    const heard = withHeard(piece.history, label, withPattern(document, pattern.id, change))
    piece.history = heard.history
    piece.show(document, [heard.fresh])
  }
  async function namePlace(number: number, name: string) {
    if (piece.id === null) return
    await piece.saveNow() // it may not be there yet
    await answer(
      api.PATCH('/api/pieces/{piece_id}/moments/{number}', { ...placeAt(piece.id, number), body: { name } }),
    )
    piece.history = withName(piece.history, number, name)
  }

  async function stand({ number }: Moment): Promise<boolean> {
    const pieceId = piece.id
    const target = await documentAt(number)
    if (pieceId === null || !target || piece.id !== pieceId || !piece.document) return false
    audition.end()
    piece.history = standingAt(piece.history, number, target)
    const next = withSilenceOf(target, piece.document)
    // What changed should be seen: if it is not in the pattern on the table, that one is chosen in which it is.
    const changed = next.patterns.filter(
      (one) =>
        !isSame(
          one,
          piece.patterns.find(({ id }) => id === one.id),
        ),
    )
    piece.show(next)
    const elsewhere = changed.some(({ id }) => id === piece.pattern?.id) ? undefined : changed[0]
    if (elsewhere) piece.choosePattern(elsewhere.id)
    return true
  }

  return { before, undo, redo, goTo, documentAt, coverAt, rememberHeard, namePlace }
})

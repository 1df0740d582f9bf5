/** Answers that come when what was asked about is no longer open. */
import type { Score } from '@/api/client'
import { usePiece } from '@/work/piece'

/** What most questions are about: the pattern that is open, or `score` in its place. @throws where no piece is open. */
export function openPattern(score?: Score) {
  const piece = usePiece()
  if (!piece.score) throw new Error('No piece is open.')
  return { score: score ?? piece.score, dice: piece.dice }
}

/** Another piece or pattern was chosen meanwhile: nothing is to be done with the answer, and nothing to be said. */
export class LateError extends Error {
  override readonly name = 'LateError'
}

/** The answer, if what it is about is still open. @throws LateError if it is not. */
export async function ifStillOpen<Answer>(asked: Promise<Answer>): Promise<Answer> {
  const piece = usePiece()
  const [pieceId, patternId] = [piece.id, piece.pattern?.id]
  const isLate = () => piece.id !== pieceId || piece.pattern?.id !== patternId
  try {
    const result = await asked
    if (isLate()) throw new LateError()
    return result
  } catch (reason) {
    throw isLate() ? new LateError() : reason
  }
}

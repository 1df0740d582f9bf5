/** What melody asks the engine for beside rendering. */
import { usePiece } from '@/stores/piece'
import { answer, api, type Piece, type Schemas, type Score } from './client'

type Patches = Record<string, Record<string, unknown>>

function asked(score?: Score) {
  const piece = usePiece()
  if (!piece.score) throw new Error('No piece is open.')
  return { score: score ?? piece.score, dice: piece.dice }
}

let voices: Promise<Schemas['VoiceLine'][]> | undefined

export const melody = {
  /** The voices that play any pitch. */
  voices: () => (voices ??= answer(api.GET('/api/melody/voices'))),
  progressions: () => answer(api.GET('/api/melody/progressions')),
  /** Lanes with a contour on their pitches: fields by lane. */
  contour: async (of: Omit<Schemas['ContourQuestion'], 'score' | 'dice'>): Promise<Patches> =>
    (await answer(api.POST('/api/melody/contour', { body: { ...of, ...asked() } }))).patches,
  /** A lane with a note, a rest or a tie entered on a step. */
  enter: async (of: Omit<Schemas['EnterQuestion'], 'score' | 'dice'>): Promise<Patches> =>
    (await answer(api.POST('/api/melody/enter', { body: { ...of, ...asked() } }))).patches,
  /** A lane with keys that were played along with `score`. */
  record: async (score: Score, of: Omit<Schemas['RecordQuestion'], 'score' | 'dice'>): Promise<Patches> =>
    (await answer(api.POST('/api/melody/record', { body: { ...of, ...asked(score) } }))).patches,
  /** The piece in another scale; with `pattern`, that one alone. */
  rescale: (piece: Piece, scale: Schemas['Scale'], pattern: string | null): Promise<Piece> =>
    answer(api.POST('/api/melody/rescale', { body: { piece, scale, pattern } })) as Promise<Piece>,
}

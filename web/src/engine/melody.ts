/** What melody asks the engine for beside rendering. */
import { answer, api, type Keys, type Piece, type Schemas, type Score } from '@/api/client'
import { ifStillOpen, openPattern } from './openPattern'

type Patches = Record<string, Record<string, unknown>>

export const melody = {
  /** The voices that play any pitch. */
  voices: () => answer(api.GET('/api/melody/voices')),
  /** What lanes hold after all that hands did, as the engine gathers it: where a pattern begins anew, or is put away. */
  gather: async (lanes: Schemas['GatherQuestion']['lanes']): Promise<ReadonlyMap<string, Keys>> => {
    const gathered = await answer(api.POST('/api/melody/gather', { body: { lanes, begin: 0 } }))
    return new Map(Object.entries(gathered.lanes))
  },
  /** How long chords may be made in a meter, and a progression to begin with in a scale. */
  chords: (meter: Schemas['Meter'], scale: Schemas['Scale']) =>
    answer(api.POST('/api/melody/chords', { body: { meter, scale } })),
  /** The keys of a keyboard, MIDI notes 0-127, as a scale spells and marks them, with the voices that a kit has on them. */
  keyboard: (scale: Schemas['Scale'] | null, kit: Schemas['Kit'] | null = null) =>
    answer(api.POST('/api/melody/keyboard', { body: { scale, kit } })),
  progressions: () => answer(api.GET('/api/melody/progressions')),
  /** Lanes with a contour on their pitches: fields by lane. */
  contour: async (of: Omit<Schemas['ContourQuestion'], 'score' | 'dice'>): Promise<Patches> =>
    (await ifStillOpen(answer(api.POST('/api/melody/contour', { body: { ...of, ...openPattern() } }))))
      .patches,
  /** A lane with a note, a rest or a tie entered on a step. */
  enter: async (of: Omit<Schemas['EnterQuestion'], 'score' | 'dice'>): Promise<Patches> =>
    (await ifStillOpen(answer(api.POST('/api/melody/enter', { body: { ...of, ...openPattern() } })))).patches,
  /** A lane with keys that were played along with `score`, and how many found no room. */
  record: (
    score: Score,
    of: Omit<Schemas['RecordQuestion'], 'score' | 'dice'>,
  ): Promise<Schemas['PlayedIn']> =>
    ifStillOpen(answer(api.POST('/api/melody/record', { body: { ...of, ...openPattern(score) } }))),
  /** The piece in another scale; with `pattern`, that one alone. */
  rescale: (piece: Piece, scale: Schemas['Scale'], pattern: string | null): Promise<Piece> =>
    ifStillOpen(
      answer(api.POST('/api/melody/rescale', { body: { piece, scale, pattern } })),
    ) as Promise<Piece>,
}

/** The musician's library: kits, sounds and starters, those that ship among them. */
import { answer, api, inForm, type Pattern, type Piece, type Schemas } from './client'

export type ListedStarter = Schemas['ListedStarter']
export type ListedKit = Schemas['ListedKit']
export type OwnSound = Schemas['OwnSound']
export type Kit = Schemas['Kit']
export type Voice = Schemas['Voice']

export const library = {
  starters: (): Promise<ListedStarter[]> => answer(api.GET('/api/starters')),
  keepStarter: (starter: Schemas['Starter']): Promise<ListedStarter> =>
    answer(api.POST('/api/starters', { body: { starter } })),
  /** A pattern after it, or its lane of that id, has begun from a starter. */
  begin: async (body: Schemas['Beginning']): Promise<Pattern> =>
    (await answer(api.POST('/api/starters/begin', { body }))) as Pattern,
  /** A piece after it has begun from a starter that is one. */
  beginPiece: async (body: Schemas['PieceBeginning']): Promise<Piece> =>
    (await answer(api.POST('/api/starters/begin-piece', { body }))) as Piece,
  deleteStarter: (number: number) =>
    answer(api.DELETE('/api/starters/{number}', { params: { path: { number } } })),

  kits: (): Promise<ListedKit[]> => answer(api.GET('/api/kits')),
  keepKit: (kit: Kit): Promise<ListedKit> => answer(api.POST('/api/kits', { body: { kit } })),
  /** A piece with another kit, with more voices in its kit, or with a kit of new voices and a lane for each. */
  exchangeKit: async (piece: Piece, kit: Kit): Promise<Piece> =>
    (await answer(api.POST('/api/kits/exchange', { body: { piece, kit } }))) as Piece,
  addVoices: async (piece: Piece, voices: Voice[]): Promise<Piece> =>
    (await answer(api.POST('/api/kits/add', { body: { piece, voices } }))) as Piece,
  makeKit: async (piece: Piece, pattern: string, voices: Voice[]): Promise<Piece> =>
    (await answer(api.POST('/api/kits/make', { body: { piece, pattern, voices } }))) as Piece,
  deleteKit: (number: number) => answer(api.DELETE('/api/kits/{number}', { params: { path: { number } } })),

  sounds: (): Promise<OwnSound[]> => answer(api.GET('/api/sounds')),
  addSound: (file: File, signal: AbortSignal): Promise<OwnSound> =>
    answer(
      api.POST('/api/sounds', {
        body: { file: file.name },
        bodySerializer: () => inForm(file),
        signal,
      }),
    ),
  deleteSound: (sound_id: number) =>
    answer(api.DELETE('/api/sounds/{sound_id}', { params: { path: { sound_id } } })),
}

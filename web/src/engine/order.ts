/** What the engine says of the running order of the piece that is open. */
import {
  answer,
  api,
  type Alternative,
  type Lane,
  type OrderRow,
  type Piece,
  type Schemas,
} from '@/api/client'

export type OrderPicture = Schemas['OrderPicture']
export type RowPicture = Schemas['RowPicture']

export const orderApi = {
  picture: (piece: Piece): Promise<OrderPicture> => answer(api.POST('/api/order', { body: { piece } })),
  alternatives: (piece: Piece, place: number, setting: string, word: string): Promise<Alternative[]> =>
    answer(api.POST('/api/order/alternatives', { body: { piece, place, setting, word } })),
  /** The rows that patterns make which were heard for so many ticks. */
  written: async (piece: Piece, heard: { pattern: string; ticks: number }[]): Promise<OrderRow[]> =>
    (await answer(api.POST('/api/order/written', { body: { piece, heard } }))).rows,
  /** What the lanes of a pattern become when those of another, or what is set on them, are brought into it. */
  bring: async (piece: Piece, of: Omit<Schemas['Bringing'], 'piece'>): Promise<Lane[]> =>
    (await answer(api.POST('/api/order/bring', { body: { piece, ...of } }))).lanes,
  /** A pattern with all that is melodic higher. */
  higher: async (piece: Piece, pattern: string, degrees: number, semitones: number) =>
    (await answer(api.POST('/api/order/higher', { body: { piece, pattern, degrees, semitones } }))).pattern,
  keep: async (piece: Piece, of: 'whole' | 'rows', rows: number[] | null = null) =>
    (await answer(api.POST('/api/order/keep', { body: { piece, of, rows } }))).clips,
  /** The bytes of a file, and what it is called. */
  async file(
    piece: Piece,
    of: 'whole' | 'rows',
    choices: Schemas['Export'],
    signal: AbortSignal,
  ): Promise<{ name: string; blob: Blob }> {
    const reply = await api.POST('/api/order/midi', {
      body: { piece, of, rows: null, export: choices },
      parseAs: 'blob',
      signal,
    })
    const blob = (await answer(Promise.resolve(reply))) as unknown as Blob
    return { name: `${piece.name}.${of === 'whole' ? 'mid' : 'zip'}`, blob }
  },
}

/** Clips over the API. openapi-fetch widens the notes' tuples to lists; here they become tuples again. */
import {
  answer,
  api,
  type ClipLine,
  type KeptLine,
  type OpenClip,
  type Pattern,
  type Piece,
  textAt,
  type Schemas,
} from './client'
import type { paths } from './schema'

const at = (id: number) => ({ params: { path: { clip_id: id } } })
const based = (id: number, revision: number) => ({ ...at(id), body: { revision } })

export interface Wanted {
  readonly words?: string
  readonly set_name?: string
  readonly tag?: string
  readonly first?: number
}
export type Export = Required<Omit<Schemas['Export'], 'key'>>
export const PLAIN_EXPORT: Export = {
  type: 1,
  resolution: 960,
  repeats: 1,
  drums: 'lanes',
  markers: false,
  bends: false,
  moves: false,
}

export interface EditedClip {
  readonly clip: OpenClip
  readonly chosen: number[][]
  /** For each note, counted through all tracks, which it was before; -1: new; null: each is the note that it was. */
  readonly came_from: number[] | null
  /** How many notes are gone: deleted, cropped, or merged with others. */
  readonly lost: number
}
/** How a MIDI file becomes clips. */
export type Import = Omit<NonNullable<paths['/api/clips/import']['post']['parameters']['query']>, 'name'>

const asQuery = (fields: object) =>
  new URLSearchParams(Object.entries(fields).map(([name, value]) => [name, String(value)])).toString()

export const clipsApi = {
  list: async (wanted: Wanted = {}) =>
    (await answer(api.GET('/api/clips', { params: { query: wanted } }))) as Schemas['ClipPage'],
  keep: async (body: Schemas['Keeping']) => (await answer(api.POST('/api/clips', { body }))) as KeptLine,
  gridStep: (step: Schemas['StepValue']) => answer(api.POST('/api/clips/grid', { body: step })),
  open: async (id: number) => (await answer(api.GET('/api/clips/{clip_id}', at(id)))) as OpenClip,
  describe: async (id: number, body: Schemas['Description']) =>
    (await answer(api.PATCH('/api/clips/{clip_id}', { ...at(id), body }))) as ClipLine,
  edit: async (id: number, revision: number, action: Action, chosen: number[][]) =>
    (await answer(
      api.POST('/api/clips/{clip_id}/edits', {
        ...at(id),
        body: { revision, action: action as AnyAction, chosen },
      }),
    )) as EditedClip,
  undo: async (id: number, revision: number) =>
    (await answer(api.POST('/api/clips/{clip_id}/undo', based(id, revision)))) as OpenClip,
  redo: async (id: number, revision: number) =>
    (await answer(api.POST('/api/clips/{clip_id}/redo', based(id, revision)))) as OpenClip,
  join: async (id: number, revision: number, other: number) =>
    (await answer(
      api.POST('/api/clips/{clip_id}/join', { ...at(id), body: { revision, other } }),
    )) as OpenClip,
  copy: async (id: number) => (await answer(api.POST('/api/clips/{clip_id}/copy', at(id)))) as ClipLine,
  delete: (id: number) => answer(api.DELETE('/api/clips/{clip_id}', at(id))),
  restore: (id: number) => answer(api.POST('/api/clips/{clip_id}/restore', at(id))),
  /** The number of a new piece: the pattern that it came from, as it stood. */
  reopen: async (id: number) => (await answer(api.POST('/api/clips/{clip_id}/reopen', at(id)))).piece,
  inPlace: async (id: number, lanes: string[]) =>
    (await answer(api.POST('/api/clips/{clip_id}/in-place', { ...at(id), body: { lanes } }))) as Record<
      string,
      Schemas['LaneClip']
    >,
  lanes: (id: number, signal: AbortSignal) =>
    answer(api.GET('/api/clips/{clip_id}/lanes', { ...at(id), signal })),
  guess: (id: number) => answer(api.GET('/api/clips/{clip_id}/guess', at(id))),
  asPiece: async (id: number, shorter: number[]) =>
    (await answer(api.POST('/api/clips/{clip_id}/lanes', { ...at(id), body: { shorter } }))).piece,
  asPattern: async (id: number, shorter: number[], patternId: string, { kit, swing }: Piece) =>
    (await answer(
      api.POST('/api/clips/{clip_id}/pattern', {
        ...at(id),
        body: { shorter, pattern_id: patternId, kit, swing },
      }),
    )) as Pattern,
  /** Where the MIDI file lies. */
  file: (id: number, how: Partial<Export> = {}) => `/api/clips/${id}.mid?${asQuery(how)}`,
  zip: (of: { ids: readonly number[] } | { set_name: string }, how: Partial<Export> = {}) =>
    `/api/clips/zip?${asQuery({ ...of, ...how })}`,
  /** The notes as text. */
  text: (id: number) => textAt(`/api/clips/${id}.txt`),
  import: async (file: File, how: Import, signal: AbortSignal) =>
    (await answer(
      api.POST('/api/clips/import', {
        params: { query: { name: file.name.replace(/\.midi?$/i, ''), ...how } },
        headers: { 'Content-Type': 'audio/midi' },
        body: file.name,
        bodySerializer: () => file,
        signal,
      }),
    )) as { clips: ClipLine[]; remarks: string[]; heard: string },
}

/** An edit as the engine knows it: what is left out is plain. */
export type Action = {
  [Kind in AnyAction as Kind['kind']]: Pick<Kind, 'kind'> & Partial<Kind>
}[AnyAction['kind']]
type AnyAction = Schemas['ClipEdit']['action']

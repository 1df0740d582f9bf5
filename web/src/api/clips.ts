/** Clips over the API. openapi-fetch widens the notes' tuples to lists; here they become tuples again. */
import { answer, api, type KeptClip, type Schemas } from './client'

const at = (id: number) => ({ params: { path: { clip_id: id } } })

export const clipsApi = {
  list: async () => (await answer(api.GET('/api/clips'))) as KeptClip[],
  keep: async (body: Schemas['Keeping']) => (await answer(api.POST('/api/clips', { body }))) as KeptClip,
  rename: async (id: number, name: string) =>
    (await answer(api.PATCH('/api/clips/{clip_id}', { ...at(id), body: { name } }))) as KeptClip,
  delete: (id: number) => answer(api.DELETE('/api/clips/{clip_id}', at(id))),
  restore: (id: number) => answer(api.POST('/api/clips/{clip_id}/restore', at(id))),
  /** Where the MIDI file lies. */
  file: (id: number) => `/api/clips/${id}.mid`,
}

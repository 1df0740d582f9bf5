/** Takes over the API. */
import { answer, api, type ClipLine, type Schemas } from './client'

export type OpenSheet = Schemas['OpenSheet']
export type DrawnTake = Schemas['DrawnTake']
export type SheetLine = Schemas['SheetLine']

const at = (id: number) => ({ params: { path: { sheet_id: id } } })
const take = (id: number, number: number) => ({ params: { path: { sheet_id: id, number } } })

export const takesApi = {
  list: () => answer(api.GET('/api/takes')),
  throw: (body: Schemas['Throwing']) => answer(api.POST('/api/takes', { body })),
  fromTape: (body: Schemas['Keeping']) => answer(api.POST('/api/takes/tape', { body })),
  open: (id: number) => answer(api.GET('/api/takes/{sheet_id}', at(id))),
  drawn: async (id: number, first: number, last: number) => {
    const params = { path: { sheet_id: id }, query: { first, last } }
    return (await answer(api.GET('/api/takes/{sheet_id}/drawn', { params }))).takes as DrawnTake[]
  },
  more: (id: number, count: number) =>
    answer(api.POST('/api/takes/{sheet_id}/more', { ...at(id), body: { count } })),
  vary: (id: number, percent: number) =>
    answer(api.POST('/api/takes/{sheet_id}/vary', { ...at(id), body: { percent } })),
  differences: (id: number, one: number, other: number) =>
    answer(api.POST('/api/takes/{sheet_id}/differences', { ...at(id), body: { one, other } })),
  delete: (id: number) => answer(api.DELETE('/api/takes/{sheet_id}', at(id))),
  restore: (id: number) => answer(api.POST('/api/takes/{sheet_id}/restore', at(id))),
  drop: (id: number, number: number) =>
    answer(api.DELETE('/api/takes/{sheet_id}/{number}', take(id, number))),
  pickUp: (id: number, number: number) =>
    answer(api.POST('/api/takes/{sheet_id}/{number}/pick-up', take(id, number))),
  keep: async (id: number, number: number) =>
    (await answer(api.POST('/api/takes/{sheet_id}/{number}/keep', take(id, number)))) as ClipLine,
}

import createClient from 'openapi-fetch'

import { ApiError } from './error'
import { leanBody } from './lean'
import { isAwayStatus } from './policy'

import type { components, paths } from './schema'

export { ApiError }
export type Schemas = components['schemas']
export type Piece = Schemas['Piece']
export type Pattern = Schemas['Pattern']
export type Lane = Schemas['Lane']
export type Score = Schemas['Score']
export type Keys = Schemas['Keys']
export type HeldDetour = Schemas['HeldDetour']
export type Movement = Schemas['Movement']
export type OrderRow = Schemas['OrderRow']
export type PlacedRow = Schemas['PlacedRow']
export type Progression = Schemas['Progression']
/** All that is drawn of a window, put together from what the engine says is new. */
export type Rendering = Omit<Schemas['News'], 'marks' | 'sounds'>
export type LanePicture = Schemas['LanePicture']
export type Part = Schemas['Part']
export type Word = Schemas['Word']
export type Field = Schemas['Field']
export type Bench = Schemas['Bench']
export type StripPicture = Schemas['StripPicture']
export type Property = Schemas['Property']
export type PropertyName = NonNullable<Schemas['RenderQuestion']['shown']>
export type Alternative = Schemas['Alternative']
export type Measures = Schemas['Measures']
export type OpenPiece = Schemas['OpenPiece']
export type ClipLine = Schemas['ClipLine']
/** A clip that was just kept. */
export type KeptLine = Schemas['KeptLine']
export type OpenClip = Schemas['OpenClip']
export type SheetTrack = Schemas['SheetTrack']
export type Kit = Schemas['Kit']
export type ShelfPiece = Schemas['ShelfPiece']

/** Told at each answer, or where none comes, whether the server is there. */
let reached: (isThere: boolean) => void = () => {}
export const onReached = (tell: (isThere: boolean) => void) => void (reached = tell)
async function reaching(request: Request): Promise<Response> {
  let isThere = false
  try {
    const response = await fetch(request)
    isThere = !isAwayStatus(response.status)
    return response
  } finally {
    if (isThere || !request.signal.aborted) reached(isThere)
  }
}

const csrfToken = () => /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? ''

export const api = createClient<paths>({
  baseUrl: location.origin,
  fetch: reaching,
  bodySerializer: leanBody,
})
api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfToken())
    return request
  },
  onResponse({ request, response }) {
    if (response.status === 401 && !request.url.endsWith('/api/session')) signedOut.forEach((tell) => tell())
    return response
  },
  onError() {
    return new ApiError(0, 'unreachable', 'The server cannot be reached.')
  },
})

/** Told when an answer says that nobody is signed in any more. */
const signedOut = new Set<() => void>()
export const onSignedOut = (tell: () => void) => void signedOut.add(tell)

/** The answer's data. @throws ApiError if it was refused. */
export async function answer<Data>(
  reply: Promise<{ data?: Data; error?: unknown; response: Response }>,
): Promise<Data> {
  const { data, error, response } = await reply
  if (response.ok) return data as Data
  const refusal = (error as Partial<Schemas['Refusal']> | undefined)?.error
  const retryAfter = Number(response.headers.get('Retry-After'))
  throw new ApiError(
    response.status,
    refusal?.code ?? 'failed',
    refusal?.message ?? `The server failed (${response.status}).`,
    retryAfter > 0 ? retryAfter * 1000 : null,
  )
}

/** A text, and a file, that lie at an address of ours. @throws ApiError if it is refused. */
export const textAt = async (address: string): Promise<string> => (await lyingAt(address)).text()
export const fileAt = async (address: string, signal: AbortSignal): Promise<Blob> =>
  (await lyingAt(address, signal)).blob()

async function lyingAt(address: string, signal: AbortSignal | null = null): Promise<Response> {
  let response: Response
  try {
    response = await fetch(address, { signal })
  } catch {
    throw new ApiError(0, 'unreachable', 'The server cannot be reached.')
  }
  if (response.ok) return response
  const error: unknown = await response.json().catch(() => undefined)
  return answer<never>(Promise.resolve({ error, response }))
}

/** Store a piece that was exported; the server reads the text itself, so that it can say what is wrong on which line. */
export const importPiece = (text: string, signal: AbortSignal): Promise<OpenPiece> =>
  answer(
    api.POST('/api/pieces/import', {
      body: {},
      bodySerializer: () => text, // as it is
      signal,
    }),
  )

/** A file as a form holds it. */
export function inForm(file: File): FormData {
  const form = new FormData()
  form.append('file', file)
  return form
}

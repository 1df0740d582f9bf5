/** Looking around: what the engine says of the neighbourhood of the pattern on the table. */
import { answer, api, type Score, type Schemas } from '@/api/client'
import { ifStillOpen, openPattern } from './openPattern'

export type FieldPicture = Schemas['FieldPicture']
export type Point = Schemas['FieldPoint']
export type Candidate = Schemas['CandidatePicture']
export type Ground = Schemas['GroundPicture']
export type GroundId = Ground['id']
export type Around = Schemas['Around']
export type Variation = Schemas['Variation']
export type FieldLimits = Omit<Schemas['FieldQuestion'], 'score' | 'dice'>

/** Detours that hands hold have no part in where one looks from. */
const standing = (score?: Score) => {
  const asked = openPattern(score)
  return { ...asked, score: { ...asked.score, held_detours: [], detours: [] } }
}

export const aroundApi = {
  all: (): Promise<Around> => answer(api.GET('/api/around')),
  field: (limits: FieldLimits): Promise<FieldPicture> =>
    ifStillOpen(answer(api.POST('/api/around/field', { body: { ...standing(), ...limits } }))),
  /** null: the start. */
  candidate: (variation: Variation | null): Promise<Candidate> =>
    ifStillOpen(answer(api.POST('/api/around/candidate', { body: { ...standing(), variation } }))),
  /** The fields that put lanes on a ground, by their ids. */
  put: (where: Omit<Schemas['GroundQuestion'], 'score' | 'dice'>) =>
    ifStillOpen(answer(api.POST('/api/around/ground', { body: { ...standing(), ...where } }))),
  /** The fields that make lanes what they were before. */
  off: (lanes: string[]) =>
    ifStillOpen(answer(api.POST('/api/around/off', { body: { ...standing(), lanes } }))),
}

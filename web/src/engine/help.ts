/** What the engine says of its words. */
import { answer, api, type Alternative, type Schemas } from '@/api/client'

export type Help = Schemas['Help']
export type HelpWord = Schemas['HelpWord']

/** What the word of a setting could be in a score of no piece; of the pattern where there is no lane. */
export const askAlternatives = (body: Schemas['AlternativesQuestion']): Promise<Alternative[]> =>
  answer(api.POST('/api/render/alternatives', { body }))

export const askHelp = (): Promise<Help> => answer(api.GET('/api/help'))

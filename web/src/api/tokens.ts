/** What scripts of the musician's sign in with. */
import { answer, api, type Schemas } from './client'

export type TokenLine = Schemas['TokenLine']

export const tokensApi = {
  list: (): Promise<TokenLine[]> => answer(api.GET('/api/tokens')),
  make: (body: Schemas['NewToken']): Promise<Schemas['MadeToken']> =>
    answer(api.POST('/api/tokens', { body })),
  revoke: (number: number) => answer(api.DELETE('/api/tokens/{number}', { params: { path: { number } } })),
}

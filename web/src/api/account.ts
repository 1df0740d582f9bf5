/** The musician's account: what it is called, how much is stored, how it ends; and whom they invite. */
import { answer, api, inForm, type Schemas } from './client'

export type Account = Schemas['Account']
export type InvitationLine = Schemas['InvitationLine']

export const accountApi = {
  read: (): Promise<Account> => answer(api.GET('/api/account')),
  changeEmail: (email: string, password: string): Promise<Account> =>
    answer(api.PUT('/api/account/email', { body: { email, password } })),
  endOthers: () => answer(api.POST('/api/account/end-others')),
  remove: (password: string) => answer(api.POST('/api/account/delete', { body: { password } })),
  bringAlong: (file: File, signal: AbortSignal): Promise<Schemas['Brought']> =>
    answer(
      api.POST('/api/account/everything', {
        body: { file: file.name },
        bodySerializer: () => inForm(file),
        signal,
      }),
    ),
  invitations: (): Promise<InvitationLine[]> => answer(api.GET('/api/invitations')),
  invite: (note: string, days: number): Promise<Schemas['MadeInvitation']> =>
    answer(api.POST('/api/invitations', { body: { note, days } })),
  takeBack: (number: number) =>
    answer(api.DELETE('/api/invitations/{number}', { params: { path: { number } } })),
}

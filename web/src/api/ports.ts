/** What controllers move, kept for the musician; what a port was sent, as a file. */
import { answer, api, type Schemas } from './client'

export type ControllerTable = Schemas['ControllerTable']
export type Binding = ControllerTable['bindings'][number]
export type Target = Binding['target']

export const portsApi = {
  controllers: (): Promise<ControllerTable[]> => answer(api.GET('/api/ports/controllers')),
  bind: (tables: readonly ControllerTable[]): Promise<ControllerTable[]> =>
    answer(api.PUT('/api/ports/controllers', { body: { tables: [...tables] } })),
  /** Messages, each with its second from the beginning, as a MIDI file. */
  recorded: async (body: Schemas['Recorded']): Promise<Blob> => {
    const { data, error } = await api.POST('/api/ports/recorded', { body, parseAs: 'blob' })
    if (!data) throw new Error(messageOf(error))
    return data as unknown as Blob
  },
}
const messageOf = (error: unknown): string =>
  (error as { error?: { message?: string } } | undefined)?.error?.message ??
  'The file could not be written: the messages are all still here. Try again.'

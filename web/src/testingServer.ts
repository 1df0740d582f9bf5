/** A server for tests: what it is asked, and what it answers, at once or when the test says so. */
import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'

import { useSession } from '@/work/session'
import { allWaiting, removeWaiting, written } from '@/work/waiting'

export interface Asked {
  readonly method: string
  readonly path: string
  readonly body: any // eslint-disable-line @typescript-eslint/no-explicit-any -- tests know what they sent
  answer(body: unknown, status?: number): Promise<void>
  refuse(status: number, said?: string): Promise<void>
}

/** Stores as they are when somebody has just signed in, with nothing that waits from before. */
export async function signInAfresh() {
  for (const { key } of await allWaiting('mara')) removeWaiting(key)
  await written()
  setActivePinia(createPinia())
  useSession().user = 'mara'
}

/** Lets all that waits for answers go on. */
export const settle = async () => {
  for (let turn = 0; turn < 8; turn++) await new Promise((resolve) => setTimeout(resolve))
}

/** Takes the place of fetch until `vi.unstubAllGlobals()`. `rules`: what is answered at once, by "METHOD path". */
export function aServer(rules: Record<string, (body: unknown) => unknown> = {}) {
  const asked: Asked[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const text = await request.text()
    const path = new URL(request.url).pathname
    const body: unknown = text ? JSON.parse(text) : null
    const rule = rules[`${request.method} ${path}`]
    return new Promise<Response>((resolve) => {
      const answer = async (answered: unknown, status = 200) => {
        resolve(Response.json(answered, { status }))
        await settle()
      }
      const refuse = (status: number, said = 'said') =>
        answer({ error: { code: 'document', message: said, problems: [] } }, status)
      asked.push({ method: request.method, path, body, answer, refuse })
      if (rule) resolve(Response.json(rule(body)))
    })
  })
  /** The questions to a path, the oldest first. */
  const to = (path: string, method = 'POST') =>
    asked.filter((one) => one.path === path && one.method === method)
  const of = (path: string) => to(path, 'GET')
  return { asked, to, of }
}

import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import { ApiError } from '@/api/client'
import { useNotices } from './notices'

beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
})

describe('notices', () => {
  it('go by themselves, but errors stay until they are closed', () => {
    const notices = useNotices()
    notices.say('Kept.')
    notices.complain('It was refused.')
    vi.advanceTimersByTime(60_000)
    expect(notices.shown.map(({ text }) => text)).toEqual(['It was refused.'])
    notices.close(notices.shown[0]!.key)
    expect(notices.shown).toEqual([])
  })
  it('that the server is away go when it is back, which is said, and what they offered is offered still', () => {
    const notices = useNotices()
    const act = vi.fn()
    notices.isBack()
    notices.complain('It was refused.')
    notices.complain(new ApiError(0, 'unreachable', 'The server cannot be reached.'), {
      label: 'Try again',
      act,
    })
    notices.isBack()
    expect(notices.shown.map(({ text }) => text)).toEqual(['It was refused.', 'The server is back.'])
    expect(notices.shown[1]!.actions[0]!.act).toBe(act)
  })
  it('are three at most: what is no error gives way first, and what is said again is said once', () => {
    const notices = useNotices()
    notices.complain('one')
    notices.say('two')
    notices.complain('three')
    notices.say('four')
    expect(notices.shown.map(({ text }) => text)).toEqual(['one', 'three', 'four'])
    notices.complain('one')
    expect(notices.shown.map(({ text }) => text)).toEqual(['three', 'four', 'one'])
    notices.complain('five')
    notices.complain('six')
    expect(notices.shown.map(({ text }) => text)).toEqual(['one', 'five', 'six'])
  })
})

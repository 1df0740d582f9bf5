import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { createApp } from 'vue'

import { ApiError } from '@/api/client'
import { useNotices } from '@/page/notices'
import { sayUncaught } from './uncaught'

beforeEach(() => {
  setActivePinia(createPinia())
  vi.spyOn(console, 'error').mockImplementation(() => undefined)
})

it('is said as a sentence, whoever forgot it', () => {
  const app = createApp({ render: () => null })
  sayUncaught(app)
  const said = () => useNotices().shown.map(({ text }) => text)
  app.config.errorHandler!(new ApiError(403, 'refused', 'lane “thud”: no'), null, '')
  expect(said()).toEqual(['lane “thud”: no'])
  window.dispatchEvent(
    Object.assign(new Event('unhandledrejection'), { reason: new TypeError('x is undefined') }),
  )
  expect(said()[1]).toMatch(/^Something here went wrong: x is undefined\. Your work is kept/)
  const harmless = Object.assign(new Event('error'), { message: 'ResizeObserver loop completed' })
  window.dispatchEvent(harmless)
  expect(said().length).toBe(2)
})

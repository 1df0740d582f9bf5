// @vitest-environment node
import { expect, it } from 'vitest'

import { sayAge } from './age'

it('says how long ago in the largest unit that fits', () => {
  const now = Date.parse('2026-11-24T12:00:00Z')
  expect(sayAge('2026-11-24T11:59:30Z', now)).toBe('just now')
  expect(sayAge('2026-11-24T11:50:00Z', now)).toBe('10 minutes ago')
  expect(sayAge('2026-11-24T09:30:00Z', now)).toBe('2 hours ago')
  expect(sayAge('2026-11-23T09:30:00Z', now)).toBe('yesterday')
})

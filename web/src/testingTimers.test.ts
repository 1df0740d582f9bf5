import { expect, it } from 'vitest'

const acted: string[] = []

it('leaves timers behind', () => {
  setTimeout(() => acted.push('a timer'), 20)
  setInterval(() => acted.push('an interval'), 20)
})

it('is not disturbed by those of the test before', async () => {
  await new Promise((resolve) => setTimeout(resolve, 60))
  expect(acted).toEqual([])
})

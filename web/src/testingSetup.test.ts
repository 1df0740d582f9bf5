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

it('reaches no network', async () => {
  fetch('http://127.0.0.1:3000').then(
    () => acted.push('answered'),
    () => acted.push('refused'),
  )
  await new Promise((resolve) => setTimeout(resolve, 30))
  expect(acted).toEqual([])
})

import { expect, test } from 'vitest'

import { nextSize, sizeBeside, type BenchSize } from './sizes'

test('a size is followed by the next larger one, the largest by the smallest', () => {
  const sizes: BenchSize[] = ['small', 'medium', 'large']
  expect(sizes.map(nextSize)).toEqual(['medium', 'large', 'small'])
})

test('beside a size lie those that are larger and smaller; beyond the smallest it is folded', () => {
  expect([sizeBeside('small', 1), sizeBeside('small', 2), sizeBeside('medium', 5)]).toEqual([
    'medium',
    'large',
    'large',
  ])
  expect([sizeBeside('large', -2), sizeBeside('large', -3), sizeBeside('medium', 0)]).toEqual([
    'small',
    null,
    'medium',
  ])
})

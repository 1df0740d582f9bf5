// @vitest-environment node
import { describe, expect, it } from 'vitest'

import type { Part } from '@/api/client'
import { foldedParts } from './folding'

const part = (setting: string, text: string, red = false): Part => ({
  setting, explains: '', red, plain: null,
  words: [{ kind: 'text', text, name: '', field: '', value: 0, stored: 0, counted_from: 0, low: 0, high: 0, decimals: 0, digits: '', last_digits: '', strip: '', own: 0 }],
}) // prettier-ignore
/** Ten pixels a letter. */
const measure = (text: string) => text.length * 10
const names = (parts: readonly Part[]) => parts.map(({ setting }) => setting)

const parts = [
  part('source', '5 in 16'),
  part('rotate', 'rotated 2'),
  part('velocity', 'velocity 84'),
  part('chance', 'chance 45 %', true),
  part('swing', 'swing 58 %'),
]

describe('a long sentence', () => {
  it('is shown whole where it fits', () => {
    expect(foldedParts(parts, 400, 2, measure)).toEqual({ shown: parts, left: 0 })
  })

  it('leaves out from the end what does not bend the result', () => {
    const { shown, left } = foldedParts(parts, 300, 2, measure)
    expect(names(shown)).toEqual(['source', 'rotate', 'chance'])
    expect(left).toBe(2)
  })

  it('counts the lines that a long part takes, which goes on over their ends', () => {
    const long = part('arpeggio', 'up and down over 2 octaves, keys latched, anew each chord')
    expect(names(foldedParts([parts[0]!, long, parts[4]!], 300, 2, measure).shown)).toEqual(['source'])
    expect(foldedParts([parts[0]!, long, parts[4]!], 300, 4, measure).left).toBe(0)
  })

  it('keeps its source and all that is red, however narrow it is', () => {
    expect(names(foldedParts(parts, 40, 1, measure).shown)).toEqual(['source', 'chance'])
  })
})

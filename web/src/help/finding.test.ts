import { describe, expect, it } from 'vitest'

import type { Help } from '@/engine/help'
import { found, shelvesOf } from './finding'

const word = (label: string, explains: string, examples: string[] = []) => ({
  setting: label, label, group: 'time' as const, explains, red: false, base: 'beat' as const, plain: null,
  examples: examples.map((text) => ({ text, patch: {} })),
}) // prettier-ignore
const help = {
  dice: 1,
  bases: {},
  words: [word('rotate', 'Every hit moves later.'), word('direction', 'In which order.', ['to and fro'])],
  terms: [{ word: 'tape', means: 'The last bars that sounded.', shown_by: '' }],
} as unknown as Help

const titles = (typed: string) =>
  found(shelvesOf(help), typed).map(({ name, pages }) => [name, pages.map(({ title }) => title)])

describe('help is found by typing', () => {
  it('by what a page is called, then by what it speaks of, its examples included', () => {
    expect(titles('rot')[0]).toEqual(['Called so', ['rotate']])
    expect(titles('to fro').at(-1)?.[1]).toContain('direction')
    expect(titles('tape')[0]).toEqual(['Called so', ['tape']])
  })
  it('says nothing of what is nowhere, and lists all before anything is typed', () => {
    expect(titles('zither')).toEqual([])
    expect(titles('').map(([name]) => name)).toEqual(['How to', 'Of a lane: time', 'Other words'])
  })
  it('has the screens before the words have come', () => {
    expect(found(shelvesOf(null), 'shortcuts')[0]?.pages[0]?.kind).toBe('keys')
  })
})

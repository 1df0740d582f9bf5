import { describe, expect, it } from 'vitest'

import type { Bench, Part, Schemas } from '@/api/client'
import { aPicture } from '@/testing'
import { PictureCache } from './pictureCache'

const field = (setting: string, says = '') => ({ setting, label: says, words: [] }) as unknown as Bench['fields'][number] // prettier-ignore
const strip = (name: string) => ({ name }) as unknown as Bench['strips'][number]
const bench = (id: string, fields: Bench['fields'], strips: Bench['strips'] = []): Bench => ({
  id, voice: '', fields, strips, rates: [], rate: 0, repeats: '', without: {}, pool: '', fits: null, channel: '',
}) // prettier-ignore
const part = (setting: string, text: string) => ({ setting, words: [{ text }] }) as unknown as Part

/** Marks are what is told of an item in these tests. */
const news = (marks: Record<string, string>, fresh: Partial<Schemas['News']> = {}): Schemas['News'] => ({
  first_tick: 0, end_tick: 1, bar_ticks: 1, beat_ticks: 1, chords: [], progression: '',
  scale_chords: [], away: [], property: null, standing: [], lanes: [], benches: [], meeting: null, marks, sounds: null, ...fresh,
}) // prettier-ignore

describe('what the page knows', () => {
  it('is put together with what is new, in the order that is said, and what is gone is forgotten', () => {
    const known = new PictureCache()
    const [thud, bell] = ['thud', 'bell'].map((id) => aPicture({ id }))
    known.take(news({ 'lane thud': '1', 'lane bell': '1' }, { lanes: [thud!, bell!] }))
    const hiss = aPicture({ id: 'hiss' })
    const drawn = known.take(news({ 'lane bell': '1', 'lane hiss': '1' }, { lanes: [hiss] }))
    expect(drawn.lanes.map(({ id }) => id)).toEqual(['bell', 'hiss'])
    expect(known.marks).toEqual({ 'lane bell': '1', 'lane hiss': '1' })
    expect(known.take(news({ 'lane thud': '1' })).lanes).toEqual([])
  })

  it('keeps a bench the same object until a field or strip of it is new, or gone', () => {
    const known = new PictureCache()
    const marks = { 'bench a': '1', 'field a hits': '1', 'field a step': '1', 'strip a pitch': '1' }
    const whole = bench('a', [field('hits'), field('step')], [strip('pitch')])
    const first = known.take(news(marks, { benches: [whole] })).benches[0]!
    expect(first).toEqual(whole)
    expect(known.take(news(marks)).benches[0]).toBe(first)

    const moved = known.take(
      news({ ...marks, 'field a hits': '2' }, { benches: [bench('a', [field('hits', '5')])] }),
    )
    expect(moved.benches[0]!.fields.map(({ label }) => label)).toEqual(['5', ''])
    expect(moved.benches[0]!.fields[1]).toBe(first.fields[1])
    expect(moved.benches[0]!.strips).toEqual([strip('pitch')])

    const left = { 'bench a': '1', 'field a hits': '2', 'field a step': '1' }
    expect(known.take(news(left)).benches[0]!.strips).toEqual([])
  })

  it('keeps the words of a changed lane that say the same', () => {
    const known = new PictureCache()
    const lane = (velocity: string) =>
      aPicture({ id: 'thud', sentence: { parts: [part('source', '4 in 16'), part('velocity', velocity)] } })
    const [before] = known.take(news({ 'lane thud': '1' }, { lanes: [lane('90')] })).lanes
    const [after] = known.take(news({ 'lane thud': '2' }, { lanes: [lane('80')] })).lanes
    expect(after!.sentence.parts[0]).toBe(before!.sentence.parts[0])
    expect(after!.sentence.parts[1]).toEqual(part('velocity', '80'))
  })

  it('keeps the meeting where it is not told anew', () => {
    const known = new PictureCache()
    const meeting = { says: 'all lanes line up every 2 bars', at: [], of: [] }
    known.take(news({ meeting: '1' }, { meeting }))
    expect(known.take(news({ meeting: '1' })).meeting).toBe(meeting)
  })
})

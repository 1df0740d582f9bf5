import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import 'fake-indexeddb/auto'
import { openDB } from 'idb'
import { createPinia, setActivePinia } from 'pinia'

import { aLane, aPiece } from '@/testing'
import { signInAfresh } from '@/testingServer'
import type { Schemas } from '@/api/client'
import type { Moment } from './history'
import { useOutbox } from './outbox'
import { useSaving } from './saving'
import { useSession } from './session'
import { allWaiting, written } from './waiting'

const at = (velocity: number) => aPiece(aLane('thud', { velocity }))
const sent: Schemas['Save'][] = []
let answers: (() => Response | Promise<Response>)[]

const moment = (number: number, label: string): Moment => ({
  number, label, at: null, document: at(Number(label.slice(3))), gesture: null, heard: false, name: '',
}) // prettier-ignore
const saved = (revision: number) => () => Response.json({ id: 1, revision, stands_at: 1, changed_at: '' })
const refused = (status: number) => () =>
  Response.json({ error: { code: 'x', message: 'said', problems: [] } }, { status })

/** Let time pass; what is written to the browser's database meanwhile takes its own. */
async function pass(milliseconds: number) {
  const STEPS = 20
  for (let step = 0; step < STEPS; step++) {
    await vi.advanceTimersByTimeAsync(milliseconds / STEPS)
    await written()
    await vi.advanceTimersByTimeAsync(0)
  }
}

beforeEach(async () => {
  await signInAfresh()
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] })
  sent.length = 0
  answers = []
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push(JSON.parse(await request.text()) as Schemas['Save'])
    const next = answers.shift()
    if (!next) throw new TypeError('no connection')
    return next()
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('saving by itself', () => {
  it('waits for the hand to rest and sends one movement as one moment', async () => {
    answers = [saved(2)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(99), 2, [moment(2, 'to 99')])
    saving.note(at(98), 2, [moment(2, 'to 98')])
    expect(saving.state.value).toBe('saving')
    await pass(600)
    expect(sent.map(({ revision, moments }) => [revision, moments?.map(({ label }) => label)])).toEqual([
      [1, ['to 98']],
    ])
    expect(saving.state.value).toBe('saved')
  })

  it('bases each save on the revision before', async () => {
    answers = [saved(2), saved(3)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    saving.note(at(80), 2)
    await saving.flush()
    expect(sent.map(({ revision, moments }) => [revision, moments?.length])).toEqual([[1, 1], [2, 0]]) // prettier-ignore
  })

  it('sends what was changed, and not the whole piece', async () => {
    answers = [saved(2), saved(3)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    saving.note(at(80), 3, [moment(3, 'to 80')])
    await saving.flush()
    const velocity = (value: number) => [{ op: 'replace', path: '/patterns/0/lanes/0/velocity', value }]
    expect(sent.map(({ moments }) => moments?.map(({ changes }) => changes))).toEqual([[velocity(90)], [velocity(80)]]) // prettier-ignore
    expect(sent.map(({ changes }) => changes)).toEqual([[], []])
  })

  it('sends a save whose answer got lost again as it was, and what was done meanwhile after it', async () => {
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush() // it may have been stored
    saving.note(at(80), 2, [moment(2, 'to 80')])
    answers = [saved(2), saved(3)]
    await pass(10_000)
    expect(sent.map(({ revision, moments }) => [revision, moments?.map(({ label }) => label)])).toEqual([
      [1, ['to 90']],
      [1, ['to 90']],
      [2, ['to 80']],
    ])
    expect(sent[0]?.attempt).toBe(sent[1]?.attempt)
    expect(sent[2]?.attempt).not.toBe(sent[1]?.attempt)
    expect([saving.state.value, useOutbox().count]).toEqual(['saved', 0])
  })

  it('knows its own save on the next page, whose answer got lost', async () => {
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    await written()
    setActivePinia(createPinia()) // another page
    useSession().user = 'mara'
    await useOutbox().begin('mara')
    const entry = useOutbox().entries[0]
    if (entry?.kind !== 'piece') throw new Error('nothing waits')
    expect([entry.document, entry.base]).toEqual([at(90), at(100)])
    const opened = useSaving(1, 2, at(90))
    answers = [saved(2)]
    opened.resume(entry, entry.attempt?.id ?? '')
    await pass(4000)
    expect(opened.state.value).toBe('saved')
    const other = useSaving(1, 2, at(90))
    other.resume(entry, 'another')
    expect(other.state.value).toBe('conflict')
  })

  it('sends what can be read though something that waits cannot', async () => {
    useSaving(1, 1, at(100)).note(at(90), 2, [moment(2, 'to 90')])
    await written()
    const broken = {
      kind: 'piece',
      key: 'piece 7',
      user: 'mara',
      at: 0,
      base: null,
      moments: [],
      standsAt: 1,
    }
    const db = await openDB('jolly-lattice')
    await db.put('waiting', { ...broken, changes: [{ op: 'remove', path: '/patterns/7/lanes/0' }] })
    expect((await allWaiting('mara')).map(({ key }) => key)).toEqual(['piece 1'])
    expect(await db.get('waiting', 'piece 7')).toBeDefined()
    await db.delete('waiting', 'piece 7')
    db.close()
  })

  it('tries again when the server could not be reached, and loses nothing', async () => {
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    expect(saving.state.value).toBe('unreachable')
    expect(saving.isSaved()).toBe(false)
    expect(useOutbox().count).toBe(1)
    answers = [saved(2)]
    await pass(4000)
    expect(saving.state.value).toBe('saved')
    expect(sent.at(-1)?.moments?.length).toBe(1)
    expect(useOutbox().count).toBe(0)
  })

  it('is not held up by the refusal of what has been taken back meanwhile', async () => {
    let refuse = () => {}
    answers = [() => new Promise((resolve) => (refuse = () => resolve(refused(422)()))), saved(2)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    void saving.flush()
    await pass(10)
    saving.forget(2)
    saving.note(at(100), 1)
    refuse()
    await pass(1000)
    expect(sent.map(({ moments }) => moments?.length)).toEqual([1, 0])
    expect(saving.state.value).toBe('saved')
  })

  it('sends what was not saved when the piece was closed', async () => {
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    saving.close()
    await pass(100)
    expect(sent.length).toBe(1)
    expect(useOutbox().count).toBe(1)
    answers = [saved(2)]
    await pass(4000)
    expect(useOutbox().count).toBe(0)
    expect(sent.at(-1)?.moments?.map(({ label }) => label)).toEqual(['to 90'])
  })

  it('survives the page: the next one takes up what waits, of the same musician alone', async () => {
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    await written()
    setActivePinia(createPinia()) // another page
    useSession().user = 'joon'
    await useOutbox().begin('joon')
    expect(useOutbox().count).toBe(0)
    useSession().user = 'mara'
    answers = [saved(2)]
    await useOutbox().begin('mara')
    await useOutbox().send()
    expect(sent.at(-1)?.moments?.map(({ label }) => label)).toEqual(['to 90'])
    await written()
    expect(await allWaiting('mara')).toEqual([])
  })

  it('waits for somebody to sign in again, and is sent then', async () => {
    answers = [refused(401)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    expect(saving.state.value).toBe('signed-out')
    expect(useSession().isExpired).toBe(true)
    await pass(60_000)
    expect(sent.length).toBe(1) // nothing is asked in vain
    answers = [saved(2)]
    await useOutbox().send()
    expect(saving.state.value).toBe('saved')
  })

  it('comes back later where the server has too much to do, when it says', async () => {
    answers = [() => new Response('{}', { status: 429, headers: { 'Retry-After': '7' } }), saved(2)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    await pass(6000)
    expect(sent.length).toBe(1)
    await pass(1500)
    expect(saving.state.value).toBe('saved')
  })

  it('keeps what was refused, and tries it again with the next change', async () => {
    answers = [refused(422), saved(2)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(0), 2, [moment(2, 'to 0')])
    await saving.flush()
    expect(useOutbox().count).toBe(1)
    saving.note(at(1), 3, [moment(3, 'to 1')])
    await saving.flush()
    expect([saving.state.value, useOutbox().count]).toEqual(['saved', 0])
  })

  it('says where in the history the document stands', async () => {
    answers = [saved(2)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 7)
    await saving.flush()
    expect(sent.map(({ stands_at, moments }) => [stands_at, moments?.length])).toEqual([[7, 0]])
  })

  it('forgets a moment that was taken back before it was saved', async () => {
    answers = [saved(2)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    saving.forget(2)
    saving.note(at(100), 1)
    await saving.flush()
    expect(sent.map(({ stands_at, moments }) => [stands_at, moments?.length])).toEqual([[1, 0]])
  })

  it('sends what piled up part by part', async () => {
    answers = [saved(2), saved(3), saved(4)]
    const saving = useSaving(1, 1, at(100))
    for (let number = 2; number < 122; number++)
      saving.note(at(number), number, [moment(number, `to ${number}`)])
    await saving.flush()
    expect(sent.map(({ moments, stands_at }) => [moments?.length, stands_at])).toEqual([[50, 51], [50, 101], [20, 121]]) // prettier-ignore
    expect(saving.state.value).toBe('saved')
  })

  it('stops at a conflict: nothing is written over', async () => {
    answers = [refused(409)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(90), 2, [moment(2, 'to 90')])
    await saving.flush()
    saving.note(at(80), 2, [moment(2, 'to 80')])
    await pass(10_000)
    expect(saving.state.value).toBe('conflict')
    expect(sent.length).toBe(1)
  })

  it('says why the server refused', async () => {
    answers = [refused(422)]
    const saving = useSaving(1, 1, at(100))
    saving.note(at(0), 2, [moment(2, 'to 0')])
    await saving.flush()
    expect([saving.state.value, saving.problem.value]).toEqual(['refused', 'said'])
  })
})

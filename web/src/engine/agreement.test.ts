import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'

import 'fake-indexeddb/auto'
import { ApiError, type Pattern } from '@/api/client'
import { useNotices } from '@/page/notices'
import { aLane, aPiece } from '@/testing'
import { usePiece } from '@/work/piece'
import { useAudition } from '@/work/audition'
import { useLive } from '@/work/live'
import { useAgreement } from './agreement'

const refusal = new ApiError(422, 'document', 'lane “thud”: no')
let piece: ReturnType<typeof usePiece>
let agreement: ReturnType<typeof useAgreement>

beforeEach(() => {
  setActivePinia(createPinia())
  piece = usePiece()
  agreement = useAgreement()
  const document = aPiece(aLane('thud'))
  const second: Pattern = { ...document.patterns[0]!, id: 'b', name: 'B' }
  piece.take(
    {
      id: 1,
      revision: 1,
      attempt: '',
      stands_at: 1,
      changed_at: '',
      document: { ...document, patterns: [...document.patterns, second] },
    },
    [{ number: 1, label: 'New piece', at: '', heard: false, name: '' }],
  )
  agreement.answered(piece.score!)
})
const louder = (velocity: number) =>
  piece.editLane('thud', `to ${velocity}`, (lane) => ({ ...lane, velocity }))
const velocity = () => piece.lanes[0]!.velocity
const refuse = () => agreement.refused(piece.score!, refusal)
const said = () => useNotices().shown.map(({ text }) => text)

it('takes back all that was done since the engine agreed', () => {
  louder(90)
  agreement.answered(piece.score!)
  louder(80)
  louder(70)
  refuse()
  expect([velocity(), piece.history.moments.length, said()]).toEqual([90, 2, ['lane “thud”: no']])
})

it('takes back an audition alone, and no moment', () => {
  louder(90)
  agreement.answered(piece.score!)
  useAudition().start((pattern) => ({ ...pattern, lanes: [] }))
  refuse()
  expect([useAudition().isOn, velocity(), piece.history.moments.length]).toEqual([false, 90, 2])
})

it('goes back to the pattern that it agreed to', () => {
  piece.choosePattern('b')
  refuse()
  expect([piece.pattern!.id, piece.history.moments.length]).toEqual(['a', 1])
})

it('lets go of what hands hold, where that is what was refused', () => {
  useLive().holdKeys('thud', {
    held: [{ key: 60, velocity: 90, start: 0, end: null }],
    sustained: [],
    let_go: [],
  })
  refuse()
  expect([useLive().keys.size, piece.history.moments.length]).toEqual([0, 1])
})

it('passes over what is no longer there, and what is no refusal', () => {
  louder(90)
  const old = piece.score!
  louder(80)
  agreement.refused(old, refusal)
  agreement.refused(piece.score!, new ApiError(0, 'unreachable', 'away'))
  expect([velocity(), said()]).toEqual([80, []])
})

// @vitest-environment node
import { expect, it, vi } from 'vitest'
import { effectScope } from 'vue'

import { useInTurn, useNewest } from './asking'

/** A question that is answered, or refused, when the test says so. */
function aQuestion() {
  let answer: (text: string) => void = () => {}
  let refuse: (reason: unknown) => void = () => {}
  const signals: AbortSignal[] = []
  const ask = (signal?: AbortSignal) => {
    if (signal) signals.push(signal)
    return new Promise<string>((resolve, reject) => ([answer, refuse] = [resolve, reject]))
  }
  return { ask, signals, answer: (text: string) => answer(text), refuse: (reason: unknown) => refuse(reason) }
}
const turn = () => new Promise((resolve) => setTimeout(resolve))

it('answers the newest question alone, in whatever order answers come', async () => {
  const newest = useNewest()
  const [first, second] = [aQuestion(), aQuestion()]
  const early = newest.ask(first.ask)
  const late = newest.ask(second.ask)
  expect([first.signals[0]!.aborted, second.signals[0]!.aborted]).toEqual([true, false])
  second.answer('new')
  expect(await late).toBe('new')
  first.answer('old')
  expect([await early, newest.isWaiting.value]).toEqual([undefined, false])
})

it('keeps the latest failure as state until the next question, and ignores failures of overtaken questions', async () => {
  const newest = useNewest()
  const [first, second, third] = [aQuestion(), aQuestion(), aQuestion()]
  const overtaken = newest.ask(first.ask)
  const failed = newest.ask(second.ask)
  first.refuse(new Error('old'))
  expect(await overtaken).toBeUndefined()
  expect(newest.error.value).toBeNull()
  second.refuse(new Error('new'))
  await expect(failed).rejects.toThrow('new')
  expect([(newest.error.value as Error).message, newest.isWaiting.value]).toEqual(['new', false])
  const next = newest.ask(third.ask)
  expect([newest.error.value, newest.isWaiting.value]).toEqual([null, true])
  third.answer('fine')
  await next
})

it('drops the answer, and does nothing more, once its scope has ended', async () => {
  const scope = effectScope()
  const { newest, inTurn } = scope.run(() => ({ newest: useNewest(), inTurn: useInTurn() }))!
  const question = aQuestion()
  const answer = newest.ask(question.ask)
  const act = vi.fn(async () => 'done')
  const done = inTurn.run(act)
  scope.stop()
  question.answer('late')
  expect([await answer, await done, question.signals[0]!.aborted]).toEqual([undefined, undefined, true])
  expect(act).not.toHaveBeenCalled()
})

it('does one thing after the other, also where one fails', async () => {
  const inTurn = useInTurn()
  const [first, second] = [aQuestion(), aQuestion()]
  const order: string[] = []
  const one = inTurn.run(async () => void order.push(await first.ask()))
  const two = inTurn.run(async () => void order.push(await second.ask()))
  const three = inTurn.run(() => void order.push('three'))
  await turn()
  first.refuse(new Error('one'))
  await expect(one).rejects.toThrow('one')
  expect((inTurn.error.value as Error).message).toBe('one')
  await turn()
  second.answer('two')
  await Promise.all([two, three])
  expect([order, inTurn.isWaiting.value, inTurn.error.value]).toEqual([['two', 'three'], false, null])
})

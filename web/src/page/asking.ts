/**
 * The two ways in which the page waits for an answer. Both end with their scope, and keep whether they wait and what failed
 * as state; a store's scope is the application.
 */
import { getCurrentScope, onScopeDispose, readonly, ref, shallowReadonly, shallowRef } from 'vue'

function asState() {
  const isWaiting = ref(false)
  const error = shallowRef<unknown>(null)
  return { isWaiting, error, shown: { isWaiting: readonly(isWaiting), error: shallowReadonly(error) } }
}

/** Newest only: a later question aborts the earlier one, whose answer is dropped. */
export function useNewest() {
  const { isWaiting, error, shown } = asState()
  let current: AbortController | null = null

  /** What was asked is not wanted any more. */
  function cancel() {
    current?.abort()
    current = null
    isWaiting.value = false
  }
  /** The answer; undefined where another question came later, or it was called off. @throws what refused it */
  async function ask<Answer>(
    question: (signal: AbortSignal) => Promise<Answer>,
  ): Promise<Answer | undefined> {
    cancel()
    const ours = (current = new AbortController())
    isWaiting.value = true
    error.value = null
    try {
      const answer = await question(ours.signal)
      return ours.signal.aborted ? undefined : answer
    } catch (reason) {
      if (ours.signal.aborted) return undefined
      error.value = reason
      throw reason
    } finally {
      if (current === ours) cancel()
    }
  }
  if (getCurrentScope()) onScopeDispose(cancel)
  return { ...shown, ask, cancel }
}

/** In turn: one after the other, each from the state as it is when its turn comes. What fails holds nothing up. */
export function useInTurn() {
  const { isWaiting, error, shown } = asState()
  let last: Promise<unknown> = Promise.resolve()
  let count = 0
  let isOver = false

  /** What comes of it; undefined where the scope ended before its turn. @throws what refused it */
  function run<Result>(act: () => Promise<Result> | Result): Promise<Result | undefined> {
    count++
    isWaiting.value = true
    const done = last.then(async () => {
      try {
        if (isOver) return undefined
        const result = await act()
        error.value = null
        return result
      } catch (reason) {
        error.value = reason
        throw reason
      } finally {
        isWaiting.value = --count > 0
      }
    })
    last = done.catch(() => undefined)
    return done
  }
  if (getCurrentScope()) onScopeDispose(() => (isOver = true))
  return { ...shown, run }
}

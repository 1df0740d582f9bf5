import {
  onScopeDispose,
  readonly,
  ref,
  shallowReadonly,
  shallowRef,
  toValue,
  watch,
  type MaybeRefOrGetter,
} from 'vue'

import type { Rendering, Schemas } from '@/api/client'
import { isAway, isTransient, pauseAfter } from '@/api/policy'
import { useNotices } from '@/page/notices'
import { useReach } from '@/page/reach'
import { PictureCache } from './pictureCache'
import { useConversation } from './useConversation'

/** `chosen`: ids of the lanes whose benches are wanted. */
type Question = Omit<Schemas['RenderQuestion'], 'chosen' | 'known' | 'sounds'> & {
  readonly chosen?: string[]
}

/**
 * The engine's answer to the newest `question`. One question is on its way at a time; meanwhile only the newest waits,
 * so that a hand that moves fast is followed as fast as the engine answers, and late answers never overwrite newer ones.
 * Pictures of lanes that did not change stay the same objects. Stops with its scope.
 */
export function useRendering(
  question: MaybeRefOrGetter<Question | null>,
  /** What is shown where the server is away before it has answered anything. */
  drawnBefore: () => Promise<Rendering | null> = async () => null,
) {
  const rendering = shallowRef<Rendering | null>(null)
  const answered = ref(0)
  const known = new PictureCache()
  const conversation = useConversation()
  const notices = useNotices()
  let waiting: Question | null = null
  let isAsking = false

  /** Failures in a row, and the pause after the last one, which a newer question ends. */
  let failures = 0
  let goOn: () => void = () => undefined

  async function askOn() {
    goOn()
    if (isAsking) return
    isAsking = true
    while (waiting && !isOver) {
      const asked = waiting
      waiting = null
      try {
        const body = { chosen: [], ...asked, known: known.marks }
        const news = await conversation.picture(body)
        if (!toValue(question)) break
        rendering.value = known.take(news)
        failures = 0
        answered.value++
      } catch (reason) {
        if (isTransient(reason)) {
          // The same is asked again, unless there is something newer by then.
          if (isAway(reason) && !rendering.value) rendering.value = await drawnBefore()
          if (!failures && !isAway(reason)) notices.complain(reason) // that nobody is there is said at the foot
          if (!waiting) await pause(pauseAfter(reason, ++failures))
          waiting ??= toValue(question) === asked ? asked : null
        } else if (!waiting) notices.complain(reason)
      }
    }
    isAsking = false
  }

  const pause = (milliseconds: number) =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, milliseconds)
      goOn = () => {
        clearTimeout(timer)
        resolve()
      }
    })
  let isOver = false
  onScopeDispose(() => {
    isOver = true
    goOn()
  })
  const reach = useReach()
  watch(
    () => reach.isAway,
    (isAway) => !isAway && goOn(),
  )

  watch(
    () => toValue(question),
    (asked, _before, onCleanup) => {
      onCleanup(() => {
        waiting = null
      })
      waiting = asked
      if (asked) void askOn()
      else rendering.value = null
    },
    { immediate: true, flush: 'sync' },
  )

  return {
    rendering: shallowReadonly(rendering),
    answered: readonly(answered),
  }
}

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

import { answer, api, type Bench, type LanePicture, type Rendering, type Schemas } from '@/api/client'
import { isTransient, pauseAfter } from '@/api/policy'

/** `chosen`: ids of the lanes whose benches are wanted. */
type Question = Omit<Schemas['RenderQuestion'], 'chosen'> & { readonly chosen?: string[] }

/**
 * The engine's answer to the newest `question`. One question is on its way at a time; meanwhile only the newest waits,
 * so that a hand that moves fast is followed as fast as the engine answers, and late answers never overwrite newer ones.
 * Pictures of lanes that did not change stay the same objects. Stops with its scope.
 */
export function useRendering(question: MaybeRefOrGetter<Question | null>) {
  const rendering = shallowRef<Rendering | null>(null)
  const error = shallowRef<{ reason: unknown; asked: Question } | null>(null)
  /** The last question that was answered. */
  const accepted = shallowRef<Question | null>(null)
  const answered = ref(0)
  let waiting: Question | null = null
  let isAsking = false

  /** Failures in a row, and the pause after the last one, which a newer question ends. */
  let failures = 0
  let goOn: () => void = () => undefined

  async function askOn() {
    goOn()
    if (isAsking) return
    isAsking = true
    while (waiting) {
      const asked = waiting
      waiting = null
      try {
        const fresh = await answer(api.POST('/api/render', { body: { chosen: [], ...asked } }))
        if (!toValue(question)) break
        rendering.value = sharing(rendering.value, fresh)
        error.value = null
        failures = 0
        accepted.value = asked
        answered.value++
      } catch (reason) {
        if (isTransient(reason)) {
          // The same is asked again, unless there is something newer by then.
          if (!failures) error.value = { reason, asked }
          if (!waiting) await pause(pauseAfter(reason, ++failures))
          waiting ??= toValue(question) === asked ? asked : null
        } else if (!waiting) error.value = { reason, asked }
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
  onScopeDispose(() => goOn())

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
    error: shallowReadonly(error),
    accepted: shallowReadonly(accepted),
    answered: readonly(answered),
  }
}

/** `fresh`, with all of `before` that is the same, so that only what changed is drawn again. */
function sharing(before: Rendering | null, fresh: Rendering): Rendering {
  if (!before) return fresh
  const inView = before.first_tick === fresh.first_tick && before.end_tick === fresh.end_tick
  return {
    ...fresh,
    standing: shared(before.standing, fresh.standing, settingOf),
    lanes: inView ? shared(before.lanes, fresh.lanes, idOf, withSameParts) : fresh.lanes,
    benches: shared(before.benches, fresh.benches, idOf, withSameFields),
    meeting:
      JSON.stringify(before.meeting) === JSON.stringify(fresh.meeting) ? before.meeting : fresh.meeting,
  }
}

const idOf = ({ id }: { id: string }) => id
const settingOf = ({ setting }: { setting: string }) => setting

/** `fresh`, each item as it was `before` if it says the same, else `nearly` so. */
function shared<Item>(
  before: readonly Item[],
  fresh: readonly Item[],
  keyOf: (item: Item) => string,
  nearly: (old: Item, item: Item) => Item = (_, item) => item,
): Item[] {
  const known = new Map(before.map((item) => [keyOf(item), item]))
  return fresh.map((item) => {
    const old = known.get(keyOf(item))
    if (!old) return item
    return JSON.stringify(old) === JSON.stringify(item) ? old : nearly(old, item)
  })
}

const withSameParts = (old: LanePicture, lane: LanePicture): LanePicture => ({
  ...lane,
  sentence: { parts: shared(old.sentence.parts, lane.sentence.parts, settingOf) },
})
const withSameFields = (old: Bench, bench: Bench): Bench => ({
  ...bench,
  fields: shared(old.fields, bench.fields, settingOf),
})

import { readonly, ref, shallowReadonly, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'

import { answer, api, type LanePicture, type Rendering, type Schemas } from '@/api/client'

/** `chosen`: ids of the lanes whose benches are wanted. */
type Question = Omit<Schemas['RenderQuestion'], 'chosen'> & { readonly chosen?: string[] }

/**
 * The engine's answer to the newest `question`. One question is on its way at a time; meanwhile only the newest waits,
 * so that a hand that moves fast is followed as fast as the engine answers, and late answers never overwrite newer ones.
 * Pictures of lanes that did not change stay the same objects. Stops with its scope.
 */
export function useRendering(question: MaybeRefOrGetter<Question | null>) {
  const rendering = shallowRef<Rendering | null>(null)
  const error = shallowRef<unknown>(null)
  const answered = ref(0)
  let waiting: Question | null = null
  let isAsking = false

  async function askOn() {
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
        answered.value++
      } catch (reason) {
        if (!waiting) error.value = reason
      }
    }
    isAsking = false
  }

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
    answered: readonly(answered),
  }
}

/** `fresh`, with the pictures of `before` where they are the same, so that only what changed is drawn again. */
function sharing(before: Rendering | null, fresh: Rendering): Rendering {
  if (!before || before.first_tick !== fresh.first_tick || before.end_tick !== fresh.end_tick) return fresh
  const known = new Map(before.lanes.map((lane) => [lane.id, lane]))
  const same = (lane: LanePicture) => {
    const old = known.get(lane.id)
    return old && JSON.stringify(old) === JSON.stringify(lane) ? old : lane
  }
  return { ...fresh, lanes: fresh.lanes.map(same) }
}

/** A chosen stretch of time in one lane or several, and what is done to the steps that begin in it. */
import { computed, ref, shallowRef } from 'vue'

import { engine } from '@/engine/engine'
import type { Lane, LanePicture, Schemas } from '@/api/client'
import { newThrow } from '@/work/document'
import { useNotices } from '@/page/notices'
import type { LaneEdits } from './useLaneEdits'

type Action = Exclude<Schemas['StepsQuestion']['action'], 'copy' | 'paste'>

interface Context {
  /** The lanes that an action on a lane means. */
  meant(lane: Lane): readonly Lane[]
  lanes(): readonly Lane[]
  picture(laneId: string): LanePicture | undefined
  patchAsAnswered: LaneEdits['patchAsAnswered']
}

export function useStretch({ meant, lanes, picture, patchAsAnswered }: Context) {
  const notices = useNotices()
  const chosen = shallowRef<{
    laneIds: readonly string[]
    firstTick: number
    endTick: number
    /** Steps of the first lane that begin in it: counted when it is chosen, as other bars may be in view later. */
    count: number
  } | null>(null)
  const copied = shallowRef<Schemas['Copied'][]>([])
  /** Notes of a ratchet and of a burst. */
  const ratchetNotes = ref(3)
  const burstNotes = ref(5)
  /** Which of how many cycles. */
  const rule = ref({ nth: 1, of: 2 })

  function choose(lane: Lane, firstTick: number, endTick: number) {
    const laneIds = meant(lane).map(({ id }) => id)
    const starts = picture(laneIds[0] ?? lane.id)?.starts ?? []
    const count = starts.filter((start) => start >= firstTick && start < endTick).length
    chosen.value = { laneIds, firstTick, endTick, count }
  }
  const drop = () => (chosen.value = null)
  const of = (laneId: string): readonly [number, number] | null =>
    chosen.value?.laneIds.includes(laneId) ? [chosen.value.firstTick, chosen.value.endTick] : null

  /** How many steps are chosen, and of which lane. */
  const says = computed(() => {
    const now = chosen.value
    const first = lanes().find(({ id }) => id === now?.laneIds[0])
    if (!now || !first) return ''
    const owner = now.laneIds.length === 1 ? first.name : `${now.laneIds.length} lanes`
    return `${now.count} ${now.count === 1 ? 'step' : 'steps'} of ${owner}`
  })

  const asked = () => {
    const now = chosen.value
    if (!now) throw new Error('Nothing is chosen: drag along a thread with Shift held.')
    return { lanes: [...now.laneIds], first_tick: now.firstTick, end_tick: now.endTick }
  }
  const NUMBERS: Partial<Record<Action, () => number>> = {
    throw: () => newThrow(),
    ratchet: () => ratchetNotes.value,
    burst: () => burstNotes.value,
    rule: () => rule.value.nth,
  }
  const SAID: Record<Action, () => string> = {
    clear: () => 'cleared',
    repeat: () => 'repeated',
    throw: () => 'thrown',
    ratchet: () => (ratchetNotes.value > 1 ? `ratchets of ${ratchetNotes.value}` : 'no ratchets'),
    burst: () => `a burst of ${burstNotes.value}`,
    link: () => 'linked',
    unlink: () => 'unlinked',
    rule: () => `cycle ${rule.value.nth} of ${rule.value.of}`,
  }
  const act = (action: Action) =>
    notices.attempt(() => {
      const question = { ...asked(), action, number: NUMBERS[action]?.() ?? 1, of: rule.value.of }
      return patchAsAnswered(SAID[action](), async () => (await engine.changeSteps(question)).patches)
    })
  const copy = () =>
    notices.attempt(async () => {
      copied.value = (await engine.changeSteps({ ...asked(), action: 'copy' })).copied ?? []
      notices.say(`Copied ${says.value}.`)
    })
  /** Paste at the beginning of what is chosen, else from `tick` on into the lanes that are meant. */
  const paste = async (lane: Lane, tick: number) => {
    const lanes = meant(lane).map(({ id }) => id)
    const where = chosen.value ? asked() : { lanes, first_tick: tick, end_tick: tick + 1 }
    const question = { ...where, action: 'paste', copied: copied.value } as const
    await patchAsAnswered('pasted', async () => (await engine.changeSteps(question)).patches)
  }

  return { chosen, copied, ratchetNotes, burstNotes, rule, says, choose, drop, of, act, copy, paste }
}

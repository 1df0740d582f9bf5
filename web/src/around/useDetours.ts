/** Detours by hand: which kind is at hand, with what number, and holding it while it plays. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import type { HeldDetour, Schemas } from '@/api/client'
import { aroundApi } from '@/engine/around'
import { useNotices } from '@/page/notices'
import { useOffer } from '@/page/useLists'
import { useMoves } from '@/playing/moves'
import { usePlaying } from '@/playing/playing'
import { isDown, useLive } from '@/work/live'
import { newThrow } from '@/work/document'
import { usePiece } from '@/work/piece'

export type Detour = HeldDetour['detour']
export type Kind = Detour['kind']
export type At = HeldDetour['at']
/** Held ones that are remembered: the engine takes no more. */
const MOST_HELD = 200

export const useDetours = defineStore('detours', () => {
  const piece = usePiece()
  const playing = usePlaying()
  const live = useLive()
  const moves = useMoves()
  const notices = useNotices()
  const around = useOffer(['around'], aroundApi.all)
  const kinds = computed(() => around.value?.detours ?? [])
  const kind = ref<Kind>('variation')
  /** What each kind is set to; what is not in it is as the engine begins it. */
  const own = shallowRef<ReadonlyMap<Kind, Detour>>(new Map())
  const isRowOpen = ref(false)

  const detourOf = (of: Kind): Detour | undefined =>
    own.value.get(of) ?? kinds.value.find((line) => line.kind === of)?.plain
  function set(detour: Detour) {
    own.value = new Map([...own.value, [detour.kind, detour]])
    kind.value = detour.kind
  }
  /** A candidate that is the detour at hand, each time; null: a fresh one each time. */
  const given = shallowRef<Detour | null>(null)
  function give(variation: Detour) {
    set(variation)
    given.value = variation
  }
  /** `detour` as it is played at this press: a variation is a fresh one each time, unless a certain one was given. */
  const fresh = (detour: Detour): Detour =>
    detour.kind === 'variation' && detour !== given.value
      ? { ...detour, throw: newThrow(), number: 0 }
      : detour

  /** The kinds that hands hold now. */
  const holding = computed<ReadonlySet<Kind>>(
    () => new Set(live.detours.filter(isDown).map(({ detour }) => detour.kind)),
  )

  /** Hold `detour` from now on, in place of another of its kind. `event`: the press. False where nothing plays. */
  function hold(detour: Detour, event: { readonly timeStamp: number }, at: At = 'once'): boolean {
    if (!playing.isPlaying) {
      notices.say('A detour is heard while it plays: press play first.')
      return false
    }
    const start = playing.keyTick(event)
    live.detours = [...live.detours, { detour, start, end: null, at }].slice(-MOST_HELD)
    return true
  }
  /** Let go of all that is held of a kind. */
  function letGo(of: Kind, event: { readonly timeStamp: number }) {
    if (!holding.value.has(of)) return
    const end = playing.keyTick(event)
    const ended = live.detours.map((one) =>
      one.detour.kind === of && isDown(one) ? { ...one, end: Math.max(one.start, end) } : one,
    )
    const fresh = ended.filter((one, at) => one !== live.detours[at])
    live.detours = ended
    // What is written down comes from there, from now on.
    const written = new Set(fresh.filter((one) => moves.recordDetour(one)))
    if (written.size) live.detours = ended.filter((one) => !written.has(one))
  }
  /** Whether a detour has anything to play; a sentence says what to do where it has not. */
  function hasLanes(detour: Detour): boolean {
    if (detour.kind !== 'only' || detour.lanes.some((id) => piece.lanes.some((lane) => lane.id === id)))
      return true
    notices.say(
      'Choose the lanes that are to sound alone on the lattice first, then press their names in the row.',
    )
    return false
  }
  function holdChosen(event: { readonly timeStamp: number }, of = kind.value) {
    kind.value = of
    const detour = detourOf(of)
    if (!detour) notices.say('The kinds of detour are still being fetched: press again.')
    else if (hasLanes(detour) && !holding.value.has(of)) hold(fresh(detour), event)
  }

  /** Give the pattern the detour of a kind, in the last bar of every eight. */
  function addToPattern(of: Kind) {
    const detour = detourOf(of)
    if (!detour || !hasLanes(detour)) return
    const patternDetour: Schemas['PatternDetour'] = {
      detour: fresh(detour), bars: 1, every: 8, fresh: detour.kind === 'variation' && detour !== given.value,
    } // prettier-ignore
    piece.editPattern('A detour in every eighth bar', (pattern) => ({
      ...pattern,
      detours: [...(pattern.detours ?? []), patternDetour],
    }))
  }
  // What only some lanes are that sound alone is of the piece at hand.
  watch(
    () => piece.id,
    () => (own.value = new Map()),
  )
  return {
    around,
    kinds,
    kind,
    isRowOpen,
    holding,
    given,
    detourOf,
    set,
    give,
    hold,
    letGo,
    holdChosen,
    addToPattern,
  }
})

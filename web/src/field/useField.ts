/** The field around the pattern on the table: made anew when it, or what is looked for, changes. */
import { useTimeoutFn, watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'

import { useDetours } from '@/around/useDetours'
import type { Lane } from '@/api/client'
import { aroundApi, type Candidate, type FieldPicture, type Variation } from '@/engine/around'
import { LateError } from '@/engine/openPattern'
import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { usePlaying } from '@/playing/playing'
import { useTrail } from '@/work/trail'
import { newThrow } from '@/work/document'
import { usePiece } from '@/work/piece'
import { useFieldSettings } from './useFieldSettings'

const NO_LIMIT = 100_000
/** The number of where a field begins, as the engine says it. */
const START = -1
const RESTING_MS = 80

export function useField() {
  const piece = usePiece()
  const trail = useTrail()
  const playing = usePlaying()
  const detours = useDetours()
  const notices = useNotices()
  const settings = useFieldSettings()
  const field = shallowRef<FieldPicture | null>(null)
  /** Why there is none, in a sentence. */
  const refusal = ref('')
  /** The field on show is not yet the one that is looked for: it is asked for when hands rest. */
  const isBehind = ref(true)
  const pointed = ref<number | null>(null)
  const candidate = shallowRef<Candidate | null>(null)
  const heard = shallowRef<readonly number[]>([])
  const allWays = computed(() => detours.around?.ways ?? [])
  const ways = computed(() => settings.ways ?? allWays.value.map(({ name }) => name))
  /** What is looked for now: an answer to an older question is of no use any more. */
  const fields = useNewest()

  const variationOf = (number: number): Variation => ({
    kind: 'variation',
    distance: settings.distance,
    ways: ways.value,
    throw: settings.throwNumber,
    number,
  })

  // Each by itself: what else changes in the piece makes no other field.
  const lookedFor = [
    allWays,
    ways,
    () => piece.pattern,
    ...(['kit', 'scale', 'swing'] as const).map((name) => () => piece.document?.[name]),
    ...(['face', 'count', 'distance', 'throwNumber', 'least', 'most'] as const).map(
      (name) => () => settings[name],
    ),
  ]
  watch(lookedFor, () => {
    fields.cancel()
    isBehind.value = true
  })
  async function make() {
    // Nobody looks at it while the ground is on show.
    if (!piece.pattern || !allWays.value.length || settings.face !== 'field') return
    try {
      const found = await fields.ask(() =>
        aroundApi.field({
          count: settings.count,
          distance: settings.distance,
          ways: ways.value,
          throw: settings.throwNumber,
          least: settings.least ?? 0,
          most: settings.most ?? NO_LIMIT,
        }),
      )
      if (!found) return
      field.value = found
      refusal.value = ''
      heard.value = []
      show(null)
      isBehind.value = false
    } catch (reason) {
      isBehind.value = false
      if (reason instanceof LateError) return
      field.value = null
      refusal.value = reason instanceof Error ? reason.message : String(reason)
    }
  }
  watchDebounced(lookedFor, make, { debounce: 120, maxWait: 400, immediate: true })

  /** The lanes as what is pointed at makes them, as soon as the engine has said it; null where it does not. */
  let coming: Promise<Lane[] | null> = Promise.resolve(null)
  const made = () => coming
  async function ask(number: number | null) {
    const lanes = piece.lanes
    try {
      const found = await aroundApi.candidate(number === null ? null : variationOf(number))
      if (pointed.value === number) candidate.value = found
      return lanes.map((lane) => ({ ...lane, ...found.patches[lane.id] }))
    } catch (reason) {
      if (!(reason instanceof LateError)) notices.complain(reason)
      return null
    }
  }
  /** Show the candidate of a number; null: the start. */
  function show(number: number | null) {
    pointed.value = number
    coming = ask(number)
  }
  /** What is shown is what is pointed at: the answer may be a moment behind the hand. */
  const isShown = computed(() => candidate.value?.point.number === (pointed.value ?? START))
  /** What a hand only passes over is not played. */
  const { start: playSoon, stop: playNot } = useTimeoutFn(
    (number: number | null) => play(number),
    RESTING_MS,
    {
      immediate: false,
    },
  )
  /** Point at a candidate: it is shown, and played from the next beat, half bar or bar on. */
  function point(number: number | null) {
    show(number)
    playSoon(number)
  }
  function play(number: number | null) {
    if (!playing.isPlaying) return
    if (number === null) return letGo()
    detours.hold(variationOf(number), { timeStamp: performance.now() }, settings.at)
    heard.value = [...heard.value.filter((one) => one !== number), number].slice(-24)
  }
  // What is stayed with while it plays was heard: a place of the trail.
  watchDebounced(
    () => [pointed.value, candidate.value] as const,
    async ([number, shown]) => {
      if (number === null || !shown || !isShown.value || !playing.isPlaying) return
      if (!heard.value.includes(number)) return
      const from = piece.pattern
      const lanes = await made()
      if (!from || !lanes || pointed.value !== number) return
      trail.rememberHeard(`Heard: no. ${number + 1} of the field around ${from.name}`, (pattern) => ({
        ...pattern,
        lanes,
      }))
    },
    { debounce: 700 },
  )
  function letGo() {
    playNot()
    detours.letGo('variation', { timeStamp: performance.now() })
  }
  watch(
    () => playing.isPlaying,
    (plays) => plays || (heard.value = []),
  )

  function throwAgain() {
    settings.throwNumber = newThrow()
  }
  return { field, refusal, isBehind, pointed, candidate, heard, allWays, variationOf, point, letGo, throwAgain, made } // prettier-ignore
}

/** The small score of a page of help: its words can be taken hold of like any, and belong to no piece. */
import { computed, ref, shallowRef } from 'vue'

import type { Lane, Score } from '@/api/client'
import { askAlternatives, type Help, type HelpWord } from '@/engine/help'
import { useRendering } from '@/engine/useRendering'
import { provideWords } from '@/hands/words'
import { useSmallPlay } from '@/playing/useSmallPlay'
import { withValueAt, type Patch } from '@/work/document'

const WINDOW = { first_bar: 0, bars: 2 }

export function useSmallScore({ bases, dice: first }: Help, word: HelpWord) {
  const isOfLane = word.group !== 'pattern'
  const base = bases[word.base] as Score
  const score = shallowRef<Score>(base)
  const dice = ref(first)
  const lane = computed(() => score.value.lanes?.[0] as Lane)
  const question = computed(() => ({ score: score.value, dice: dice.value, row: null, window: WINDOW }))
  const { rendering } = useRendering(question)
  const sound = useSmallPlay(() => ({ score: score.value, dice: dice.value, patternId: 'help' }))

  const document = () => (isOfLane ? lane.value : { ...score.value, dice: dice.value })
  function show(next: object) {
    if (isOfLane) score.value = { ...score.value, lanes: score.value.lanes?.with(0, next as Lane) ?? [] }
    else {
      const { dice: number, ...rest } = next as Score & { dice: number }
      dice.value = number
      score.value = rest
    }
  }
  /** What stood before the movement of the hand that goes on. */
  let held = { gesture: '', before: document() }
  provideWords({
    document,
    move(moved, value, gesture) {
      if (held.gesture !== gesture) held = { gesture, before: document() }
      show(withValueAt(document(), moved.field, value))
    },
    choose: (_setting, _word, { patch }) => show({ ...document(), ...patch }),
    patch: (_label, fields) => show({ ...document(), ...fields }),
    cancel: (gesture) => gesture === held.gesture && show(held.before),
    ask: (setting, asked) =>
      askAlternatives({
        score: score.value,
        dice: dice.value,
        lane: isOfLane ? lane.value.id : null,
        setting,
        word: asked,
        window: WINDOW,
      }),
  })

  const parts = computed(() =>
    isOfLane
      ? (rendering.value?.lanes[0]?.sentence.parts ?? [])
      : (rendering.value?.standing.filter(({ setting }) => setting.startsWith(word.setting)) ?? []),
  )
  /** From the plain score anew, with the fields of an example; without any, as plain. */
  function begin(patch: Patch) {
    score.value = base
    dice.value = first
    show({ ...document(), ...patch })
  }
  return { isOfLane, lane, rendering, parts, begin, ...sound }
}

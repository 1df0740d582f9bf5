/** All that hands do on the lattice: made once by it, injected where a hand is. */
import { computed, inject, provide, type InjectionKey, type Ref } from 'vue'

import type { Lane, Rendering } from '@/api/client'
import { onArrival } from '@/engine/onArrival'
import { useNotices } from '@/page/notices'
import { valueAt, type Patch } from '@/work/document'
import { usePiece } from '@/work/piece'
import { useMutes } from '@/playing/mutes'
import { useChosenLanes } from './useChosenLanes'
import { useLaneEdits } from './useLaneEdits'
import { useStretch } from './useStretch'
import { useStripEdits } from './useStripEdits'
import { useStroke } from './useStroke'
import type { WordHands } from './words'

const KEY: InjectionKey<Hands> = Symbol('hands')
export type Hands = ReturnType<typeof makeHands>

/** What is done to a lane is done to all that are chosen with it. `rendering`: the engine's newest answer. */
export function provideHands(
  chosen: ReturnType<typeof useChosenLanes>,
  rendering: Readonly<Ref<Rendering | null>>,
): Hands {
  const hands = makeHands(chosen, rendering)
  provide(KEY, hands)
  return hands
}
/** @throws outside of the lattice, which provides them. */
export function useHands(): Hands {
  const hands = inject(KEY, null)
  if (!hands) throw new Error('No hands here: they are provided by the lattice, for what lies inside of it.')
  return hands
}

function makeHands(chosen: ReturnType<typeof useChosenLanes>, rendering: Readonly<Ref<Rendering | null>>) {
  const piece = usePiece()
  const mutes = useMutes()
  const notices = useNotices()
  const pictures = computed(() => new Map(rendering.value?.lanes.map((picture) => [picture.id, picture])))
  const benches = computed(() => new Map(rendering.value?.benches.map((bench) => [bench.id, bench])))
  const meant = (lane: Lane): readonly Lane[] => (chosen.isChosen(lane.id) ? chosen.chosen.value : [lane])
  const picture = (laneId: string) => pictures.value.get(laneId)
  /** What is drawn of a lane, as soon as it is: one that was just added has still to be. */
  const pictured = (laneId: string) => onArrival(() => picture(laneId))
  const bench = (laneId: string) => benches.value.get(laneId)

  const edits = useLaneEdits({ meant, picture, bench })
  const strips = useStripEdits({ meant, patchAsAnswered: edits.patchAsAnswered })
  const stretch = useStretch({
    meant,
    lanes: () => piece.lanes,
    picture,
    patchAsAnswered: edits.patchAsAnswered,
  })
  const stroke = useStroke(edits.setSteps)

  /** Turn a step, and along with it all that the hand then passes. */
  function press(lane: Lane, step: number, isHit: boolean) {
    chosen.touch(lane.id)
    const shown = picture(lane.id)
    if (shown) stroke.press(lane, shown, step, isHit)
  }
  /** Lay values on steps of a strip; one of a length of its own does not belong to steps, and is painted on the bench. */
  function layOn(
    lane: Lane,
    { name, path }: { name: string; path: string },
    values: ReadonlyMap<number, number>,
    gesture: string,
    on: Patch = {},
  ) {
    chosen.touch(lane.id)
    if (valueAt(lane, `${path}.free`))
      notices.complain(`The ${name} strip of ${lane.name} has a length of its own: paint it on the bench.`)
    else strips.setValues(lane, { name, path, is_free: false }, values, gesture, on)
  }
  const setPitches = (lane: Lane, values: ReadonlyMap<number, number>, gesture: string) =>
    layOn(lane, { name: 'pitch', path: 'pitch_strip' }, values, gesture)
  /** Set the property that the whole lattice shows. */
  function setShown(lane: Lane, values: ReadonlyMap<number, number>, gesture: string) {
    const property = rendering.value?.property
    if (property) layOn(lane, property, values, gesture, picture(lane.id)?.painted_on ?? {})
  }
  function chooseStretch(lane: Lane, firstTick: number, endTick: number) {
    if (!chosen.isChosen(lane.id)) chosen.choose(lane.id)
    stretch.choose(lane, firstTick, endTick)
  }
  /** Paste where steps are chosen, else at the step under the cursor, else where the view begins. */
  function paste() {
    const lane = chosen.first.value
    if (!lane) return
    const shown = picture(lane.id)
    const at = shown?.numbers.indexOf(chosen.cursor.value ?? -1) ?? -1
    void stretch.paste(lane, shown?.starts[at] ?? rendering.value?.first_tick ?? 0)
  }
  const mute = (lane: Lane, isMuted: boolean) => meant(lane).forEach(({ id }) => mutes.mute(id, isMuted))
  const solo = (lane: Lane, isSolo: boolean) => meant(lane).forEach(({ id }) => mutes.solo(id, isSolo))

  /** The hands on the words of a lane; of whichever lane `of` says it is now. */
  const wordsOf = (of: () => Lane): WordHands => ({
    document: of,
    move: (word, value, gesture, isTyped) => void edits.move(of(), word, value, gesture, isTyped),
    choose: (setting, word, alternative) => void edits.choose(of(), setting, word, alternative),
    patch: (label, fields) => edits.patch(of(), label, fields),
    cancel: piece.takeBack,
    ask: (setting, word) => edits.ask(of().id, setting, word),
  })

  return { chosen, edits, strips, stretch, stroke, pictures, benches, pictured, press, setPitches, setShown, chooseStretch, paste, mute, solo, wordsOf } // prettier-ignore
}

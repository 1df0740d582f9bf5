/** What keys do on the lattice. */
import { watch, type Ref } from 'vue'

import type { Lane, LanePicture } from '@/api/client'
import { nextSize, type BenchSize } from '@/bench/sizes'
import { useHandSettings } from '@/hands/useHandSettings'
import type { Hands } from '@/hands/useHands'
import { newGesture } from '@/page/gesture'
import { useShortcuts } from '@/page/useShortcuts'
import { valueAt } from '@/work/document'
import { usePiece } from '@/work/piece'
import { stretchAround } from './geometry/scale'
import type { useView } from '@/engine/useView'

interface Lattice {
  readonly hands: Hands
  readonly view: ReturnType<typeof useView>
  readonly isBenchOpen: Ref<boolean>
  readonly benchSize: Ref<BenchSize>
  readonly isKeysOpen: Ref<boolean>
  addLane(): void
  openField(): void
  openOrder(): void
  openPerform(): void
}

export function useLatticeKeys({
  hands,
  view,
  isBenchOpen,
  benchSize,
  isKeysOpen,
  addLane,
  openField,
  openOrder,
  openPerform,
}: Lattice) {
  const { chosen, edits, stretch, pictured, mute, solo, paste } = hands
  const settings = useHandSettings()
  const piece = usePiece()
  const withFirst = (act: (lane: Lane) => unknown) => () => {
    if (chosen.first.value) act(chosen.first.value)
  }
  /** The same with what is drawn of it. */
  const withPicture = (act: (lane: Lane, shown: LanePicture) => unknown) =>
    withFirst(async ({ id }) => {
      const shown = await pictured(id)
      const lane = piece.lanes.find((one) => one.id === id)
      if (lane && shown) act(lane, shown)
    })

  const walk = (by: number) =>
    withPicture((_lane, { steps }) => {
      const { cursor } = chosen
      cursor.value = cursor.value === null ? (by > 0 ? 0 : steps - 1) : (cursor.value + by + steps) % steps
    })
  /** Choose steps from the one under the cursor on, one more or one fewer; the cursor goes along. */
  let began: { lane: string; at: number } | null = null
  const extendSteps = (by: number) =>
    withPicture((lane, shown) => {
      const at = shown.numbers.indexOf(chosen.cursor.value ?? shown.numbers[0] ?? 0)
      if (!stretch.chosen.value || began?.lane !== lane.id) began = { lane: lane.id, at }
      else
        chosen.cursor.value = shown.numbers[Math.min(shown.numbers.length - 1, Math.max(0, at + by))] ?? null
      const now = shown.numbers.indexOf(chosen.cursor.value ?? shown.numbers[at] ?? 0)
      const [from, to] = [
        shown.starts[Math.min(began.at, now)] ?? 0,
        shown.starts[Math.max(began.at, now)] ?? 0,
      ]
      hands.chooseStretch(lane, ...stretchAround(from, to, shown.step_ticks))
    })
  /** What steps were turned to since the picture that is on show: it may be a moment behind the hand. */
  let turned: { shown: LanePicture; steps: Map<number, boolean> } | null = null
  function turnStep(lane: Lane, shown: LanePicture) {
    const step = chosen.cursor.value
    if (step === null) return
    if (turned?.shown !== shown) turned = { shown, steps: new Map() }
    const isHit = !(turned.steps.get(step) ?? shown.cycle_hits.includes(step))
    turned.steps.set(step, isHit)
    edits.setSteps(lane, shown, [step], isHit)
  }
  const anchor = (lane: Lane) =>
    edits.patch(lane, lane.anchored ? 'not anchored' : 'anchored', { anchored: !lane.anchored })

  /** Move the hits of a lane: the number of its sentence that says so. Until another lane is chosen, that is one moment. */
  const moveHits = (by: number) =>
    withPicture((lane, { sentence }) => {
      const hits = sentence.parts.flatMap((part) => part.words).find(({ field }) => field === 'source.hits')
      if (!hits) return
      // From what the document says now: the picture may be a moment behind the hand.
      const now = Math.min(hits.high, Number(valueAt(lane, hits.field) ?? hits.value))
      void edits.move(lane, hits, Math.min(hits.high, Math.max(hits.low, now + by)), moving)
    })
  let moving = newGesture('keys')
  watch(
    () => chosen.first.value?.id,
    () => (moving = newGesture('keys')),
  )
  const withSteps = (act: () => unknown) => () => {
    if (stretch.chosen.value) act()
  }
  const throwIt = (lane: Lane) =>
    stretch.chosen.value ? stretch.act('throw') : edits.throwLane(lane, settings.throwPercent)

  useShortcuts({
    'ArrowUp': { says: 'Lane above', act: () => chosen.walk(-1) },
    'ArrowDown': { says: 'Lane below', act: () => chosen.walk(1) },
    'Shift+ArrowUp': { says: 'Choose the lane above too', act: () => chosen.extend(-1) },
    'Shift+ArrowDown': { says: 'Choose the lane below too', act: () => chosen.extend(1) },
    'Alt+ArrowUp': { says: 'Lane one place up', act: withFirst((lane) => edits.shift(lane, -1)) },
    'Alt+ArrowDown': { says: 'Lane one place down', act: withFirst((lane) => edits.shift(lane, 1)) },
    'Escape': { says: 'Choose no steps; one lane only', act: () => (isKeysOpen.value ? (isKeysOpen.value = false) : stretch.chosen.value ? stretch.drop() : chosen.onlyFirst()) },
    'j': { says: 'Keyboard: play the lane from keys', act: () => (isKeysOpen.value = true) },
    'Ctrl+c': { says: 'Copy the chosen steps', act: withSteps(stretch.copy) },
    'Ctrl+v': { says: 'Paste steps', act: paste },
    'Delete': { says: 'Clear the chosen steps', act: withSteps(() => stretch.act('clear')) },
    'r': { says: 'Repeat the chosen steps', act: withSteps(() => stretch.act('repeat')) },
    'o': { says: 'Order; ratchet the chosen steps', act: () => (stretch.chosen.value ? stretch.act('ratchet') : openOrder()) },
    'c': { says: 'Perform: big controls', act: openPerform },
    'u': { says: 'Burst in place of the chosen steps', act: withSteps(() => stretch.act('burst')) },
    'l': { says: 'Link the chosen steps', act: withSteps(() => stretch.act('link')) },
    'p': { says: 'Next property view', act: () => view.turnProperty(1) },
    'Shift+p': { says: 'Property view before', act: () => view.turnProperty(-1) },
    'q': { says: 'Slower steps, down to 1/8', act: withFirst((lane) => edits.turnRate(lane, -1, moving)) },
    'w': { says: 'Faster steps, up to 1/64 triplets', act: withFirst((lane) => edits.turnRate(lane, 1, moving)) },
    'ArrowLeft': { says: 'Step before', act: walk(-1) },
    'ArrowRight': { says: 'Step after', act: walk(1) },
    'Shift+ArrowRight': { says: 'Choose steps, one more', act: extendSteps(1) },
    'Shift+ArrowLeft': { says: 'Choose steps, one fewer', act: extendSteps(-1) },
    'Enter': { says: 'Step: hit or rest', act: withPicture(turnStep) },
    'm': { says: 'Mute the lane', act: withFirst((lane) => mute(lane, !lane.mute)) },
    's': { says: 'Solo the lane', act: withFirst((lane) => solo(lane, !lane.solo)) },
    'a': { says: 'Anchor the lane', act: withFirst(anchor) },
    't': { says: 'Throw the lane, or the chosen steps', act: withFirst(throwIt) },
    'Shift+t': { says: 'Throw all that are not anchored', act: () => edits.throwAll(settings.throwPercent) },
    '+': { says: 'One hit more', act: moveHits(1) },
    '-': { says: 'One hit fewer', act: moveHits(-1) },
    'n': { says: 'New lane', act: addLane },
    'd': { says: 'Copy the lane', act: withFirst((lane) => chosen.choose(edits.copy(lane))) },
    'Shift+Delete': { says: 'Remove the lane', act: withFirst(edits.remove) },
    'b': { says: 'Fold the bench, or open it', act: () => (isBenchOpen.value = !isBenchOpen.value) },
    'Shift+b': { says: 'The next size of the bench', act: () => ((benchSize.value = nextSize(benchSize.value)), (isBenchOpen.value = true)) },
    'g': { says: 'Field: look around', act: openField },
    'f': { says: 'Follow the music, or stay', act: view.toggleFollowing },
    'PageUp': { says: 'Earlier bars', act: () => view.turnPage(-1) },
    'PageDown': { says: 'Later bars', act: () => view.turnPage(1) },
    '[': { says: 'Fewer bars in view', act: () => view.zoom(-1) },
    ']': { says: 'More bars in view', act: () => view.zoom(1) },
  }) // prettier-ignore
}

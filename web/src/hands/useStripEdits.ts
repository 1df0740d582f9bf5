/** What hands do to strips, each named for the history. */
import type { Lane, StripPicture } from '@/api/client'
import { isSame } from '@/api/same'
import { engine } from '@/engine/engine'
import { melody } from '@/engine/melody'
import { newGesture } from '@/page/gesture'
import { useNotices } from '@/page/notices'
import {
  newThrow,
  stripValuesOf,
  valueAt,
  withStripLength,
  withStripValues,
  type Patch,
} from '@/work/document'
import { controllerName } from '@/sound/neutral'
import { usePiece } from '@/work/piece'
import type { ContourNeeds, StripAction } from './strips'
import { useHandSettings } from './useHandSettings'
import { type LaneEdits } from './useLaneEdits'

type StripPlace = Pick<StripPicture, 'name' | 'path' | 'is_free'>

const thrownBetween = (action: StripAction) =>
  action.kind === 'throw'
    ? { low: action.low, high: action.high, shape: action.shape, throw: newThrow() }
    : {}

interface Context {
  /** The lanes that an action on a lane means. */
  meant(lane: Lane): readonly Lane[]
  readonly patchAsAnswered: LaneEdits['patchAsAnswered']
}

export function useStripEdits({ meant, patchAsAnswered }: Context) {
  const piece = usePiece()
  const notices = useNotices()
  const settings = useHandSettings()

  /** Set values of a strip; null makes a step plain. `on`: fields to lay on the lane before that, unless it has them. */
  function setValues(
    lane: Lane,
    strip: StripPlace,
    values: ReadonlyMap<number, number | null>,
    gesture: string,
    on: Patch = {},
  ) {
    const [place, value] = [...values][0] ?? [0, null]
    const one = `${strip.name} ${place + 1} ${value ?? 'plain'}`
    const label = values.size === 1 ? one : `${strip.name} of ${values.size} steps`
    const beside = Object.entries(on).filter(([field]) => field !== strip.path)
    const isThere = (old: Lane) => beside.every(([field, value]) => isSame(valueAt(old, field), value))
    piece.editLane(
      lane.id,
      `${lane.name}: ${label}`,
      (old) => withStripValues(isThere(old) ? old : { ...old, ...on }, strip, values),
      gesture,
    )
  }
  function resizeStrip(lane: Lane, strip: StripPlace, length: number, gesture: string) {
    const label = `${lane.name}: ${strip.name} of ${length}`
    piece.editLane(lane.id, label, (old) => withStripLength(old, strip, length), gesture)
  }
  const addControl = (lane: Lane, controller: number) =>
    patchAsAnswered(controllerName(controller), () => engine.beginControl([lane.id], controller))
  /** Do something to all of a strip, of every lane that is meant. */
  async function actOnStrip(lane: Lane, strip: StripPicture, action: StripAction) {
    // As the document has them: the engine's picture may be a moment behind the hand.
    const own = () => strip.values.map((_, place) => stripValuesOf(lane, strip.path)[place] ?? null)
    if (action.kind === 'copy') {
      settings.copiedStrip = own()
      notices.say(`Copied ${strip.name} of ${lane.name}.`)
    } else if (action.kind === 'paste' || action.kind === 'all') {
      const laid = action.kind === 'all' ? strip.values.map(() => action.value) : (settings.copiedStrip ?? [])
      const values = new Map(laid.slice(0, strip.values.length).map((value, place) => [place, value]))
      setValues(lane, strip, values, newGesture('strip'))
    } else {
      const lanes = meant(lane).map(({ id }) => id)
      const throwing = thrownBetween(action)
      const what = action.kind === 'throw' ? 'throw' : action.operation
      const label = action.kind === 'throw' ? `thrown ${action.low} to ${action.high}` : action.operation
      await patchAsAnswered(`${strip.name} ${label}`, () =>
        engine.changeStrip({ lanes, strip: strip.name, action: what, ...throwing }),
      )
    }
  }

  /** Draw a contour on the pitches of every lane that is meant. */
  async function drawContour(lane: Lane, asked: ContourNeeds) {
    const lanes = meant(lane).map(({ id }) => id)
    const number = newThrow()
    await patchAsAnswered(`pitches ${asked.contour}`, () =>
      melody.contour({ ...asked, lanes, throw: number }),
    )
  }

  return { setValues, resizeStrip, addControl, actOnStrip, drawContour }
}

/** What a hand that goes down on a thread takes hold of: a stretch of time, values, a bead, the step range, or steps. */
import type { Lane } from '@/api/client'
import { useHandSettings } from '@/hands/useHandSettings'
import { useHands } from '@/hands/useHands'
import { Stroke, type Touch } from '@/hands/valuesAlong'
import { newGesture } from '@/page/gesture'
import { useDrag, type Held } from '@/page/useDrag'
import { valueAtHeight } from '../geometry/bars'
import { pixelsOf, stretchAround } from '../geometry/scale'
import { nearTo, placeOn, type Drawn, type Place } from './place'
import type { usePitch } from './usePitch'

/** What can be taken hold of of the band that shows the step range. */
type Side = 'left' | 'right' | 'whole'

interface ThreadContext extends Drawn {
  readonly lane: Lane
  /** Which end of the range lies at the left of the band; null where the band cannot be taken hold of. */
  readonly leftGrip: 'first' | 'last' | null
  /** Whether what is seen is what was asked for: until then a hand would take hold of something else. */
  readonly isSettled: boolean
}

export function useThreadHands(
  element: () => Element | null,
  thread: () => ThreadContext,
  pitch: ReturnType<typeof usePitch>,
) {
  const hands = useHands()
  const settings = useHandSettings()
  const placeOf = (event: PointerEvent) => placeOn(element(), event)

  /** A stretch of time: from half a step before its first step to half a step after its last. */
  function stretchFrom(from: number): Held {
    return {
      move(event) {
        const { picture, lane } = thread()
        const ends = [from, nearTo(placeOf(event), thread())].sort((one, other) => one - other)
        const [first = 0, last = 0] = ends.map((at) => picture.starts[at] ?? 0)
        hands.chooseStretch(lane, ...stretchAround(first, last, picture.step_ticks))
      },
    }
  }

  /** Values of the property that the lattice shows. */
  function valuesFrom(place: Place): Held {
    const touchAt = (at: Place): Touch => {
      const { property, height } = thread()
      return [nearTo(at, thread()), property ? valueAtHeight(at.y, property, height) : 0]
    }
    const stroke = new Stroke(touchAt(place))
    const gesture = newGesture('values')
    return {
      move(event) {
        const { picture, lane } = thread()
        const laid = stroke.to(touchAt(placeOf(event)), event.shiftKey)
        const byNumber = new Map([...laid].map(([at, value]) => [picture.numbers[at] ?? 0, value]))
        hands.setShown(lane, byNumber, gesture)
      },
    }
  }

  /** The step range: the band's ends and its lower edge. Where steps are read backward, later in time is earlier in the lane. */
  function rangeFrom(x: number, side: Side, leftGrip: 'first' | 'last'): Held {
    const other = leftGrip === 'first' ? 'last' : 'first'
    const grip = side === 'whole' ? 'both' : side === 'left' ? leftGrip : other
    const sign = leftGrip === 'first' ? 1 : -1
    const gesture = newGesture('range')
    let movedBy = 0
    return {
      move({ clientX }) {
        const { picture, scale, lane } = thread()
        const by = Math.round((clientX - x) / pixelsOf(picture.step_ticks, scale)) * sign
        if (by !== movedBy) hands.edits.moveRange(lane, grip, by, gesture)
        movedBy = by
      },
    }
  }

  /** The step under a place, and whether it is a hit. */
  function stepAt(place: Place): [number, boolean] | null {
    const { picture } = thread()
    const near = nearTo(place, thread())
    const step = picture.numbers[near]
    return step === undefined ? null : [step, picture.hits.includes(near)]
  }
  function stepsFrom(touched: [number, boolean]): Held {
    hands.press(thread().lane, ...touched)
    return {
      move(event) {
        const step = stepAt(placeOf(event))
        if (step) hands.stroke.paint(thread().lane, ...step)
      },
      end: hands.stroke.release,
    }
  }

  /** A bead; one that was pressed and not moved is turned to a rest, like any other. */
  function beadFrom(place: Place, touched: [number, boolean]): Held | null {
    const drawing = pitch.take(place, (values, gesture) => hands.setPitches(thread().lane, values, gesture))
    return (
      drawing && {
        move: (event) => drawing.to(placeOf(event)),
        end(isTakenAway) {
          if (!isTakenAway && !drawing.hasDrawn()) stepsFrom(touched).end?.(false)
        },
      }
    )
  }

  function take(event: PointerEvent): Held | null {
    const { picture, property, isSettled, leftGrip } = thread()
    if (picture.kept || !isSettled) return null
    const place = placeOf(event)
    const side =
      event.target instanceof Element && event.target.closest<SVGElement>('[data-grip]')?.dataset['grip']
    // A bead always wins.
    if (side && leftGrip && !pitch.isOverBead(place)) return rangeFrom(event.clientX, side as Side, leftGrip)
    const touched = stepAt(place)
    if (!touched) return null
    if (property || event.shiftKey || settings.isChoosing) {
      const hold = property ? valuesFrom(place) : stretchFrom(nearTo(place, thread()))
      hold.move(event)
      return hold
    }
    return beadFrom(place, touched) ?? stepsFrom(touched)
  }
  return useDrag(take)
}

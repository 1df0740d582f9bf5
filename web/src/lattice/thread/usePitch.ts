/** Beads that leave the thread by their pitch: a bead is dragged up and down, and on over its neighbours. */
import { computed, ref } from 'vue'

import { newGesture } from '@/page/gesture'
import { xOf } from '../geometry/scale'
import { drawnTo, pitchAtY, yOfPitch } from '../geometry/staff'
import { nearTo, type Drawn, type Place } from './place'

/** Pixels from a bead's middle within which a hand is on it. */
const REACH = 15
/** Pixels that a hand may move on a bead before it drags it. */
const SLACK = 4
/** Rows that are lower show no lines of the scale and no names: their beads rise and fall between the roots. */
const NAMED_FROM = 60
/** Pixels that an octave's name needs. */
const APART = 16

/** `isOfScale`: whether the pitch strip counts in degrees of the scale; else in semitones. */
export function usePitch(drawn: () => Drawn & { readonly isOfScale: boolean }) {
  /** Where the first note of a hit lies; null where there is none. */
  function beadOf(hit: number): Place | null {
    const { picture, scale, height } = drawn()
    const [step, pitch] = [picture.hits[hit], picture.pitches[hit]?.[0]]
    if (!picture.staff || step === undefined || pitch === undefined) return null
    const start = picture.onsets[hit] ?? picture.starts[step] ?? 0
    return { x: xOf(start, scale), y: yOfPitch(pitch, picture.staff, height) }
  }
  /** Index among the hits of the bead under the hand; -1 if there is none. */
  function beadUnder({ x, y }: Place): number {
    const { picture, property } = drawn()
    if (!picture.staff || property || picture.kept) return -1
    return picture.hits.findIndex((_, hit) => {
      const bead = beadOf(hit)
      return bead !== null && Math.hypot(bead.x - x, bead.y - y) < REACH
    })
  }
  /** Whether a bead lies under the hand, on whatever kind of lane. */
  function isOverBead(place: Place): boolean {
    const { picture, scale, height } = drawn()
    if (picture.staff) return beadUnder(place) >= 0
    const near = nearTo(place, drawn())
    const far = [xOf(picture.starts[near] ?? 0, scale) - place.x, height / 2 - place.y]
    return picture.hits.includes(near) && Math.hypot(...far) < REACH
  }

  /** What the pitch strip is to say, by step number, as a hand draws it from one bead on; null where there is no bead. */
  function take(from: Place, set: (values: ReadonlyMap<number, number>, gesture: string) => void) {
    if (beadUnder(from) < 0) return null
    const gesture = newGesture('pitch')
    const values = new Map<number, number>()
    return {
      to(place: Place) {
        const { picture, height, isOfScale } = drawn()
        const { staff, hits, numbers, pitches, degrees } = picture
        if (!staff || (!values.size && Math.hypot(place.x - from.x, place.y - from.y) < SLACK)) return
        const near = nearTo(place, drawn())
        const hit = hits.indexOf(near)
        const [pitch] = pitches[hit] ?? []
        if (pitch === undefined) return
        const step = numbers[near] ?? 0
        const degree = degrees[hit] ?? 0
        const wanted = pitchAtY(place.y, staff, height, isOfScale)
        const value = drawnTo(degree, pitch, wanted, staff, isOfScale)
        if (value === (values.get(step) ?? degree)) return
        values.set(step, value)
        set(new Map(values), gesture)
      },
      hasDrawn: () => values.size > 0,
    }
  }

  /** The names of the notes under the hand. */
  const named = ref<{ x: number; y: number; name: string } | null>(null)
  function nameUnder(place: Place) {
    const { picture } = drawn()
    const { staff } = picture
    const hit = beadUnder(place)
    const bead = beadOf(hit)
    const row = picture.pitches[hit] ?? []
    named.value =
      staff && bead
        ? { ...bead, name: row.map((pitch) => staff.names[pitch - staff.low] ?? '').join(' ') }
        : null
  }

  const lines = computed(() => {
    const { picture, height, scale, property } = drawn()
    const { staff } = picture
    if (!staff || property || picture.kept) return null
    const path = (pitches: readonly number[]) =>
      pitches.map((pitch) => `M0 ${Math.round(yOfPitch(pitch, staff, height)) + 0.5}H${scale.width}`).join('')
    const isLow = height < NAMED_FROM
    // Where octaves lie close together only the outermost have room for their names.
    const [lowest, next] = staff.roots.map((pitch) => yOfPitch(pitch, staff, height))
    const isClose = lowest !== undefined && next !== undefined && lowest - next < APART
    const outermost = new Set([staff.roots[0], staff.roots.at(-1)])
    const named = isLow ? [] : staff.roots.filter((pitch) => !isClose || outermost.has(pitch))
    const names = named.map((pitch) => ({ pitch, y: yOfPitch(pitch, staff, height), name: staff.names[pitch - staff.low] ?? '' })) // prettier-ignore
    return { lines: isLow ? '' : path(staff.lines), roots: path(staff.roots), names }
  })

  return { beadOf, isOverBead, take, named, nameUnder, lines }
}

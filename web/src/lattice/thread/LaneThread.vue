<script setup lang="ts">
/** One lane's thread through true time. A press or a drag along it says which step is meant. */
import { computed, ref } from 'vue'

import { newGesture } from '@/page/gesture'
import type { LanePicture } from '@/api/client'
import type { Property } from '@/api/client'
import { Stroke } from '@/hands/valuesAlong'
import { propertyBars, valueAtHeight } from '../geometry/bars'
import { keptThreadOf } from '../geometry/kept'
import { pixelsOf, stepNear, tickAt, xOf, type Scale } from '../geometry/scale'
import { pitchAtY, stepsBetween, yOfPitch } from '../geometry/staff'
import { threadOf } from '../geometry/thread'
import { shownProperty } from '../propertyViews'
import type { Grip } from '@/hands/stepRange'

const props = defineProps<{
  picture: LanePicture
  scale: Scale
  height: number
  ink: string
  label: string
  /** The step that the keyboard is on, or null. */
  cursor: number | null
  /** Which end of the range lies at the left of the band; null where the band cannot be taken hold of. */
  leftGrip: 'first' | 'last' | null
  /** What is shown and painted of every step in place of beads; null for beads. */
  property: Property | null
  /** The stretch of time that is chosen in this lane, in ticks; null if none is. */
  stretch: readonly [number, number] | null
  /** Whether the pitch strip counts in degrees of the scale; else in semitones. */
  isOfScale: boolean
}>()
/** `step`: its number in the cycle, from 0; `isHit`: whether it is one where it was touched. */
const emit = defineEmits<{
  press: [step: number, isHit: boolean]
  paint: [step: number, isHit: boolean]
  release: []
  /** The band's end, or all of it, has been moved so many steps from where it was taken. */
  range: [grip: Grip, by: number, gesture: string]
  /** Values of the property, by step number, as one stroke of the hand has laid them so far. */
  values: [values: ReadonlyMap<number, number>, gesture: string]
  /** Pitches as a hand draws them: what the pitch strip is to say, by step number; strokes of one `gesture` are one. */
  pitches: [values: ReadonlyMap<number, number>, gesture: string]
  /** A stretch of time was chosen, from half a step before its first step to half a step after its last. */
  stretch: [firstTick: number, endTick: number]
}>()

const element = ref<SVGSVGElement>()
const y = computed(() => props.height / 2)
const thread = computed(() => threadOf(props.picture, props.scale, y.value))
/** While a clip plays in the lane's place its steps are set aside, and no hand reaches them. */
const kept = computed(() =>
  props.picture.kept ? keptThreadOf(props.picture.kept, props.scale, props.height) : null,
)
const bars = computed(() =>
  props.property && !kept.value
    ? propertyBars(props.picture, props.property, props.scale, props.height)
    : null,
)
const chosen = computed(() => {
  if (!props.stretch) return null
  const [from, to] = props.stretch.map((tick) => xOf(tick, props.scale)) as [number, number]
  return { x: from, width: Math.max(2, to - from) }
})
const cursorX = computed(() => {
  const at = props.cursor === null ? -1 : props.picture.numbers.indexOf(props.cursor)
  return at < 0 ? null : xOf(props.picture.starts[at] as number, props.scale)
})

const cursorY = computed(() => {
  const { staff, hits, numbers, pitches } = props.picture
  if (!staff) return y.value
  const hit = hits.findIndex((step) => numbers[step] === props.cursor)
  return yOfPitch(pitches[hit]?.[0] ?? staff.note, staff, props.height)
})

const hitSteps = computed(() => new Set(props.picture.hits))
function stepAt(event: PointerEvent): [number, boolean] | null {
  const left = element.value?.getBoundingClientRect().left ?? 0
  const near = stepNear(props.picture.starts, tickAt(event.clientX - left, props.scale))
  const step = props.picture.numbers[near]
  return step === undefined ? null : [step, hitSteps.value.has(near)]
}

let isDown = false
/** Whether what is seen is what was asked for: while the answer is on its way, a hand would take hold of something else. */
const isSettled = computed(() => (props.property?.name ?? null) === shownProperty.value)
function onPointerDown(event: PointerEvent) {
  if (event.button !== 0 || kept.value || !isSettled.value) return
  const touched = stepAt(event)
  if (!touched) return
  element.value?.setPointerCapture(event.pointerId)
  if (event.shiftKey && !props.property) {
    chosenFrom = nearTo(event)
    chooseTo(event)
    return
  }
  if (props.property) {
    painting = { stroke: new Stroke(valueAt(event)), gesture: newGesture('values') }
    paintValues(event)
    return
  }
  const bead = beadUnder(event)
  if (bead !== null) {
    drawing = {
      gesture: newGesture('pitch'),
      values: new Map(),
      from: [event.clientX, event.clientY],
      touched,
    }
    return
  }
  isDown = true
  emit('press', ...touched)
}
function onPointerMove(event: PointerEvent) {
  moveHold(event)
  if (drawing) drawPitch(event)
  else nameUnder(event)
  if (chosenFrom !== null) chooseTo(event)
  if (painting) paintValues(event)
  const touched = isDown ? stepAt(event) : null
  if (touched) emit('paint', ...touched)
}
function onPointerUp() {
  if (isDown) emit('release')
  // A bead that was pressed and not moved is turned to a rest, like any other.
  if (drawing && !drawing.values.size) {
    emit('press', ...drawing.touched)
    emit('release')
  }
  drawing = null
  isDown = false
  held = chosenFrom = painting = null
}

/** Index of the step under the hand among those in view. */
function nearTo(event: PointerEvent): number {
  const left = element.value?.getBoundingClientRect().left ?? 0
  return stepNear(props.picture.starts, tickAt(event.clientX - left, props.scale))
}

// ---- Pitches: a bead is dragged up and down, and on over its neighbours ----
const REACH = 15 // pixels from a bead's middle
let drawing: {
  gesture: string
  values: Map<number, number>
  from: readonly [number, number]
  touched: [number, boolean]
} | null = null
const placeIn = (event: PointerEvent): [number, number] => {
  const { left = 0, top = 0 } = element.value?.getBoundingClientRect() ?? {}
  return [event.clientX - left, event.clientY - top]
}
/** Index among the hits of the bead under the hand; null if there is none. */
function beadUnder(event: PointerEvent): number | null {
  const { staff, hits, starts, onsets, pitches } = props.picture
  if (!staff || props.property || kept.value) return null
  const [x, y] = placeIn(event)
  const at = hits.findIndex((step, hit) => {
    const [pitch] = pitches[hit] ?? []
    if (pitch === undefined) return false
    const far = [
      xOf(onsets[hit] ?? (starts[step] as number), props.scale) - x,
      yOfPitch(pitch, staff, props.height) - y,
    ]
    return Math.hypot(...far) < REACH
  })
  return at < 0 ? null : at
}
/** Whether a bead lies under the hand, on whatever kind of lane. */
function isOverBead(event: PointerEvent): boolean {
  if (props.picture.staff) return beadUnder(event) !== null
  const near = nearTo(event)
  const [x, y] = placeIn(event)
  const far = [xOf(props.picture.starts[near] ?? 0, props.scale) - x, props.height / 2 - y]
  return hitSteps.value.has(near) && Math.hypot(...far) < REACH
}
function drawPitch(event: PointerEvent) {
  const { staff, hits, pitches, degrees, numbers } = props.picture
  if (!drawing || !staff) return
  const [fromX, fromY] = drawing.from
  if (!drawing.values.size && Math.hypot(event.clientX - fromX, event.clientY - fromY) < 4) return
  const hit = hits.indexOf(nearTo(event))
  const [pitch] = pitches[hit] ?? []
  if (pitch === undefined) return
  const wanted = pitchAtY(placeIn(event)[1], staff, props.height, props.isOfScale)
  const step = numbers[hits[hit] as number] ?? 0
  const value = (degrees[hit] ?? 0) + stepsBetween(pitch, wanted, staff, props.isOfScale)
  if (value === (drawing.values.get(step) ?? degrees[hit])) return
  drawing.values.set(step, value)
  emit('pitches', new Map(drawing.values), drawing.gesture)
}
/** The name of the note under the hand. */
const named = ref<{ x: number; y: number; name: string } | null>(null)
function nameUnder(event: PointerEvent) {
  const { staff, hits, starts, pitches } = props.picture
  const at = beadUnder(event)
  const row = at === null ? undefined : pitches[at]
  named.value =
    staff && at !== null && row?.length
      ? {
          x: xOf(starts[hits[at] as number] as number, props.scale),
          y: yOfPitch(row[0] as number, staff, props.height),
          name: row.map((pitch) => staff.names[pitch - staff.low] ?? '').join(' '),
        }
      : null
}
/** Rows that are lower are all for their steps: their range is moved as a whole on the chosen lane. */
const HELD_FROM = 44
/** Rows that are lower show no lines of the scale and no names: their beads rise and fall between the roots. */
const NAMED_FROM = 60
const staffLines = computed(() => {
  const { staff } = props.picture
  if (!staff || bars.value || kept.value) return null
  const path = (pitches: readonly number[]) =>
    pitches
      .map((pitch) => `M0 ${Math.round(yOfPitch(pitch, staff, props.height)) + 0.5}H${props.scale.width}`)
      .join('')
  // Where octaves lie close together only the outermost have room for their names.
  const apart = (props.height / Math.max(1, staff.high - staff.low)) * 12
  const isLow = props.height < NAMED_FROM
  const named = isLow
    ? []
    : apart < 16
      ? staff.roots.filter((_, at) => at === 0 || at === staff.roots.length - 1)
      : staff.roots
  const names = named.map((pitch) => ({ pitch, y: yOfPitch(pitch, staff, props.height), name: staff.names[pitch - staff.low] ?? '' })) // prettier-ignore
  return { lines: isLow ? '' : path(staff.lines), roots: path(staff.roots), names }
})

// ---- A stretch of time ----
let chosenFrom: number | null = null
function chooseTo(event: PointerEvent) {
  const ends = [chosenFrom ?? 0, nearTo(event)].sort((one, other) => one - other)
  const [from, to] = ends.map((at) => props.picture.starts[at] ?? 0) as [number, number]
  const half = props.picture.step_ticks / 2
  emit('stretch', Math.max(0, Math.round(from - half)), Math.round(to + half))
}

// ---- Values of a property ----
let painting: { stroke: Stroke; gesture: string } | null = null
function valueAt(event: PointerEvent): [number, number] {
  const top = element.value?.getBoundingClientRect().top ?? 0
  const { property } = props
  return [nearTo(event), property ? valueAtHeight(event.clientY - top, property, props.height) : 0]
}
function paintValues(event: PointerEvent) {
  if (!painting) return
  const laid = painting.stroke.to(valueAt(event), event.shiftKey)
  const byNumber = new Map([...laid].map(([at, value]) => [props.picture.numbers[at] ?? 0, value]))
  emit('values', byNumber, painting.gesture)
}

// ---- The step range: the band's ends and its lower edge ----
let held: { grip: Grip; x: number; sign: number; gesture: string; gone: number } | null = null
function takeHold(event: PointerEvent, side: 'left' | 'right' | 'whole') {
  if (event.button !== 0 || !props.leftGrip || isOverBead(event)) return // a bead always wins
  event.stopPropagation()
  element.value?.setPointerCapture(event.pointerId)
  const other = props.leftGrip === 'first' ? 'last' : 'first'
  const grip = side === 'whole' ? 'both' : side === 'left' ? props.leftGrip : other
  // Where the steps are read backward, later in time is earlier in the lane.
  const sign = props.leftGrip === 'first' ? 1 : -1
  held = { grip, x: event.clientX, sign, gesture: newGesture('range'), gone: 0 }
}
function moveHold(event: PointerEvent) {
  if (!held) return
  const stepPixels = pixelsOf(props.picture.step_ticks, props.scale)
  const by = Math.round((event.clientX - held.x) / stepPixels) * held.sign
  if (by === held.gone) return
  held.gone = by
  emit('range', held.grip, by, held.gesture)
}
</script>

<template>
  <svg
    ref="element"
    class="thread inked"
    :class="{ silent: picture.silent }"
    role="img"
    :aria-label="label"
    :width="scale.width"
    :height="height"
    :style="{ color: ink }"
    @pointerdown="onPointerDown"
    @pointermove="onPointerMove"
    @pointerup="onPointerUp"
    @pointercancel="onPointerUp"
    @pointerleave="named = null"
  >
    <g v-if="kept" class="kept">
      <path class="line" :d="kept.lines" />
      <line v-for="x in kept.stitches" :key="x" class="stitch" :x1="x" :x2="x" y1="10" :y2="height - 10" />
      <path class="tails" :d="kept.tails" />
      <path class="beads-kept" :d="kept.beads" />
    </g>
    <rect
      v-if="thread.band && !kept"
      class="band"
      :x="thread.band.x"
      :width="thread.band.width"
      y="8"
      :height="height - 16"
      rx="9"
    />
    <g v-if="staffLines" class="staff">
      <path :d="staffLines.lines" />
      <path class="root" :d="staffLines.roots" />
      <text v-for="one in staffLines.names" :key="one.pitch" :x="scale.width - 4" :y="one.y - 3">
        {{ one.name }}
      </text>
    </g>
    <path v-if="!bars && !kept && !picture.staff" class="line" :d="thread.line" />
    <line
      v-for="(x, at) in kept ? [] : thread.stitches"
      :key="x"
      class="stitch"
      :class="{ first: at === 0 }"
      :x1="x"
      :x2="x"
      y1="10"
      :y2="height - 10"
    />
    <rect v-if="chosen" class="stretch" v-bind="chosen" y="3" :height="height - 6" rx="6" />
    <g v-if="bars" class="bars">
      <path class="rest" :d="bars.rests" />
      <path :d="bars.hits" />
    </g>
    <template v-else-if="!kept">
      <path class="rests" :d="thread.rests" />
      <path v-if="thread.curve" class="curve" :d="thread.curve" />
      <path class="tails" :d="thread.tails" />
      <g
        v-for="beads in thread.beads"
        :key="`${beads.isInBand} ${beads.sounds}`"
        :class="{ later: !beads.isInBand, skipped: !beads.sounds, marks: thread.isMarks }"
        class="beads"
      >
        <path class="solid" :d="beads.solid" />
        <path class="fill" :d="beads.fill" />
        <path class="ring" :d="beads.ring" />
        <path class="caps" :d="beads.caps" />
      </g>
      <path class="notches" :d="thread.notches" />
      <text v-for="tag in thread.tags" :key="tag.x" class="tag" :x="tag.x" :y="tag.y">{{ tag.text }}</text>
    </template>
    <g v-if="thread.band && leftGrip && !property && isSettled && !kept" class="grips">
      <rect
        v-for="side in ['left', 'right'] as const"
        :key="side"
        class="grip"
        :x="thread.band.x + (side === 'left' ? 0 : thread.band.width) - 5"
        y="8"
        width="10"
        :height="height - 16"
        rx="4"
        @pointerdown="(event) => takeHold(event, side)"
      >
        <title>Drag: the steps that take part</title>
      </rect>
      <rect
        v-if="height >= HELD_FROM"
        class="grip edge"
        :x="thread.band.x + 8"
        :y="height - 15"
        :width="Math.max(0, thread.band.width - 16)"
        height="9"
        rx="4"
        @pointerdown="(event) => takeHold(event, 'whole')"
      >
        <title>Drag: move the step range as a whole</title>
      </rect>
    </g>
    <circle v-if="cursorX !== null" class="cursor" :cx="cursorX" :cy="cursorY" r="15" />
    <text v-if="named" class="note-name" :x="named.x" :y="named.y < 30 ? named.y + 25 : named.y - 13">
      {{ named.name }}
    </text>
  </svg>
</template>

<style scoped>
.thread {
  display: block;
  cursor: pointer;
  touch-action: pan-y;
  position: relative;
}
.beads-kept {
  fill: currentColor;
}
.kept .line {
  fill: none;
  stroke-width: 2.2;
}
.band {
  fill: color-mix(in srgb, currentColor 14%, transparent);
}
.line {
  stroke: currentColor;
  stroke-width: 1.4;
  opacity: 0.75;
}
.staff path {
  stroke: currentColor;
  stroke-width: 1;
  opacity: 0.13;
}
.staff .root {
  opacity: 0.38;
}
.staff text {
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
  font: 650 12px/1 var(--text-font);
  text-anchor: end;
  fill: currentColor;
}
.curve {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.4;
  opacity: 0.4;
}
.note-name {
  font: 650 14px/1 var(--name-font);
  text-anchor: middle;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
  pointer-events: none;
}
.stitch {
  stroke: currentColor;
  stroke-width: 2;
  stroke-dasharray: 3 3;
  opacity: 0.8;
}
.stitch.first {
  stroke-dasharray: none;
  stroke-width: 2.5;
}
.rests,
.solid,
.fill {
  fill: currentColor;
}
.rests {
  opacity: 0.55;
}
.ring {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.8;
}
.caps {
  fill: none;
  stroke: currentColor;
  stroke-width: 2.2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.marks .ring {
  stroke-width: 1.4;
}
.tag {
  font: 650 11px/1 var(--text-font);
  text-anchor: middle;
  fill: var(--ink);
}
.stretch {
  fill: color-mix(in srgb, var(--keep) 35%, transparent);
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 5 3;
}
.bars path {
  fill: currentColor;
  opacity: 0.85;
}
.bars .rest {
  opacity: 0.22;
}
.marks .solid {
  fill: none;
  stroke: currentColor;
  stroke-width: 3;
}
.tails {
  fill: none;
  stroke: currentColor;
  stroke-width: 5;
  stroke-linecap: round;
  opacity: 0.28;
}
.later {
  opacity: 0.6;
}
.skipped {
  opacity: 0.32;
}
.silent {
  opacity: 0.3;
}
/* What a hand has turned carries a notch. */
.notches {
  fill: var(--ink);
}
.grip {
  fill: currentColor;
  opacity: 0;
  cursor: ew-resize;
}
.grip.edge {
  cursor: grab;
}
.thread:hover .grip {
  opacity: 0.22;
}
.thread .grip:hover {
  opacity: 0.6;
}
.cursor {
  fill: none;
  stroke: var(--act);
  stroke-width: 2.5;
}
</style>

<script setup lang="ts">
/** One lane's thread through true time. A press or a drag along it says which step is meant. */
import { computed, ref } from 'vue'

import type { Lane, LanePicture, Property, Rendering } from '@/api/client'
import { useView } from '@/engine/useView'
import { awayThreadOf } from '../geometry/away'
import { propertyBars } from '../geometry/bars'
import { keptThreadOf } from '../geometry/kept'
import { xOf, type Scale } from '../geometry/scale'
import { yOfPitch } from '../geometry/staff'
import { threadOf } from '../geometry/thread'
import { placeOn } from './place'
import { usePitch } from './usePitch'
import { useThreadHands } from './useThreadHands'

const props = defineProps<{
  lane: Lane
  picture: LanePicture
  scale: Scale
  height: number
  ink: string
  /** The step that the keyboard is on, or null. */
  cursor: number | null
  /** What is shown and painted of every step in place of beads; null for beads. */
  property: Property | null
  /** The stretch of time that is chosen in this lane, in ticks; null if none is. */
  stretch: readonly [number, number] | null
  /** Where detours hold. */
  away: Rendering['away']
}>()

const view = useView()
const element = ref<SVGSVGElement | null>(null)
const label = computed(
  () =>
    `Thread of ${props.lane.name}: hits on steps ${props.picture.cycle_hits.map((hit) => hit + 1).join(', ') || 'none'} of ${props.picture.steps}`,
)
const thread = computed(() => threadOf(props.picture, props.scale, props.height / 2))
/** While a clip plays in the lane's place its steps are set aside, and no hand reaches them. */
const kept = computed(() =>
  props.picture.kept ? keptThreadOf(props.picture.kept, props.scale, props.height) : null,
)
const away = computed(() =>
  props.away?.length ? awayThreadOf(props.picture, props.away, props.scale, props.height) : null,
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

/** Which end of the step range lies at the left of the band. A lane that follows another has none of its own. */
const leftGrip = computed<'first' | 'last' | null>(() =>
  props.picture.follows !== null ? null : props.lane.direction === 'backward' ? 'last' : 'first',
)
const isSettled = computed(() => (props.property?.name ?? null) === view.property)
const drawn = computed(() => ({
  ...props,
  isOfScale: props.lane.pitch_strip?.unit !== 'semitones',
  leftGrip: leftGrip.value,
  isSettled: isSettled.value,
}))
const pitch = usePitch(() => drawn.value)
const { named, lines: staffLines } = pitch
const drag = useThreadHands(
  () => element.value,
  () => drawn.value,
  pitch,
)
function onPointerMove(event: PointerEvent) {
  if (!drag.isHeld()) pitch.nameUnder(placeOn(element.value, event))
}

const cursorAt = computed(() => {
  const { numbers, starts, hits, staff } = props.picture
  const at = props.cursor === null ? -1 : numbers.indexOf(props.cursor)
  const start = starts[at]
  if (start === undefined) return null
  const bead = pitch.beadOf(hits.findIndex((step) => numbers[step] === props.cursor))
  return { cx: xOf(start, props.scale), cy: bead?.y ?? (staff ? yOfPitch(staff.note, staff, props.height) : props.height / 2) } // prettier-ignore
})
/** Rows that are lower are all for their steps: their range is moved as a whole on the chosen lane. */
const HELD_FROM = 44
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
    v-bind="drag.on"
    @pointermove="onPointerMove"
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
    <g v-if="away && !bars" class="away">
      <rect v-for="one in away.stretches" :key="one.x" :x="one.x" :width="one.width" y="0" :height="height" />
      <path :d="away.beads" />
    </g>
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
        :data-grip="side"
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
        data-grip="whole"
      >
        <title>Drag: move the step range as a whole</title>
      </rect>
    </g>
    <circle v-if="cursorAt" class="cursor" v-bind="cursorAt" r="15" />
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
/* Where a detour holds, what would have been is pale; what plays instead is rimmed. */
.away {
  pointer-events: none;
}
.away rect {
  fill: var(--paper);
  opacity: 0.72;
}
.away path {
  fill: currentColor;
  stroke: var(--act);
  stroke-width: 2;
}
.cursor {
  fill: none;
  stroke: var(--act);
  stroke-width: 2.5;
}
</style>

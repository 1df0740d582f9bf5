<script setup lang="ts">
/** One lane's thread through true time. A press or a drag along it says which step is meant. */
import { computed, ref } from 'vue'

import type { Lane, LanePicture, Property, Rendering } from '@/api/client'
import { useView } from '@/engine/useView'
import { awayThreadOf } from '../geometry/away'
import { propertyBars } from '../geometry/bars'
import { keptThreadOf } from '../geometry/kept'
import { xOf, type TimeScale } from '../geometry/scale'
import { yOfPitch } from '../geometry/staff'
import { threadOf } from '../geometry/thread'
import { placeOn } from './place'
import ThreadShapes from './ThreadShapes.vue'
import { usePitch } from './usePitch'
import { useThreadHands } from './useThreadHands'

const props = defineProps<{
  lane: Lane
  picture: LanePicture
  scale: TimeScale
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
const label = computed(() => {
  const { kept, cycle_hits, steps } = props.picture
  const hits = cycle_hits.map((hit) => hit + 1).join(', ') || 'none'
  return `Thread of ${props.lane.name}: ${kept ? `plays clip “${kept.name}”` : `hits on steps ${hits} of ${steps}`}`
})
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
    <rect v-if="chosen" class="stretch" v-bind="chosen" y="3" :height="height - 6" rx="6" />
    <ThreadShapes
      :thread="thread"
      :kept="kept"
      :bars="bars"
      :away="away"
      :staff-lines="staffLines ?? null"
      :has-staff="picture.staff !== null"
      :scale="scale"
      :height="height"
    />
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
.note-name {
  font: 650 14px/1 var(--name-font);
  text-anchor: middle;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
  pointer-events: none;
}
.stretch {
  fill: color-mix(in srgb, var(--keep) 35%, transparent);
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 5 3;
}
.silent {
  opacity: 0.3;
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

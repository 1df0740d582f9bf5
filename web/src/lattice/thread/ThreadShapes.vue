<script setup lang="ts">
/** What a lane's thread looks like: its band, staff, beads and marks, within an svg of its ink. */
import type { awayThreadOf } from '../geometry/away'
import type { propertyBars } from '../geometry/bars'
import type { keptThreadOf } from '../geometry/kept'
import type { TimeScale } from '../geometry/scale'
import type { Thread } from '../geometry/thread'
import type { usePitch } from './usePitch'

defineProps<{
  thread: Thread
  /** A clip that plays in the lane's place. */
  kept?: ReturnType<typeof keptThreadOf> | null
  /** One property of every step, in place of beads. */
  bars?: ReturnType<typeof propertyBars> | null
  /** What plays where detours hold. */
  away?: ReturnType<typeof awayThreadOf> | null
  staffLines?: ReturnType<typeof usePitch>['lines']['value'] | null
  hasStaff: boolean
  scale: TimeScale
  height: number
}>()
</script>

<template>
  <g>
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
    <path v-if="!bars && !kept && !hasStaff" class="line" :d="thread.line" />
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
      <circle v-for="hit in thread.silent" :key="hit.x" class="silent-hit" :cx="hit.x" :cy="hit.y" r="9">
        <title>{{ hit.text }}</title>
      </circle>
      <text v-for="tag in thread.tags" :key="tag.x" class="tag" :x="tag.x" :y="tag.y">{{ tag.text }}</text>
    </template>
    <g v-if="away && !bars" class="away">
      <rect v-for="one in away.stretches" :key="one.x" :x="one.x" :width="one.width" y="0" :height="height" />
      <path :d="away.beads" />
    </g>
  </g>
</template>

<style scoped>
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
  fill: color-mix(in srgb, currentColor 35%, var(--ink));
}
.curve {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.4;
  opacity: 0.4;
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
.silent-hit {
  fill: transparent;
}
/* What a hand has turned carries a notch. */
.notches {
  fill: var(--ink);
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
</style>

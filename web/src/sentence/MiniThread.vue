<script setup lang="ts">
/** A lane's thread in small: what an alternative would make of it. */
import { computed } from 'vue'

import type { LanePicture } from '@/api/client'
import { inkOf } from '@/theme/inks'
import { type TimeScale } from '@/lattice/geometry/scale'
import { threadOf } from '@/lattice/geometry/thread'

const props = defineProps<{ picture: LanePicture; ink: number; from: number; end: number; width?: number }>()
const HEIGHT = 26
/** Small as it is, beads are read sooner than marks. */
const NARROW = 5
const scale = computed<TimeScale>(() => ({
  firstTick: props.from,
  endTick: props.end,
  width: props.width ?? 230,
}))
const thread = computed(() => threadOf(props.picture, scale.value, HEIGHT / 2, NARROW))
</script>

<template>
  <svg
    class="mini inked"
    :width="scale.width"
    :height="HEIGHT"
    :style="{ color: inkOf(ink) }"
    aria-hidden="true"
  >
    <rect
      v-if="thread.band"
      class="band"
      :x="thread.band.x"
      :width="thread.band.width"
      y="1"
      :height="HEIGHT - 2"
      rx="6"
    />
    <path class="line" :d="thread.line" />
    <path class="rests" :d="thread.rests" />
    <g
      v-for="beads in thread.beads"
      :key="`${beads.isInBand} ${beads.sounds}`"
      :class="{ marks: thread.isMarks, skipped: !beads.sounds }"
    >
      <path class="solid" :d="beads.solid" />
      <path class="solid" :d="beads.fill" />
      <path class="ring" :d="beads.ring" />
    </g>
  </svg>
</template>

<style scoped>
.mini {
  display: block;
  flex: none;
}
.band {
  fill: color-mix(in srgb, currentColor 13%, transparent);
}
.line {
  stroke: currentColor;
  stroke-width: 1.2;
  opacity: 0.6;
}
.rests,
.solid {
  fill: currentColor;
}
.rests {
  opacity: 0.5;
}
.ring {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.5;
}
.marks .solid {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
}
.skipped {
  opacity: 0.4;
}
</style>

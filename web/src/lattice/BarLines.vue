<script setup lang="ts">
/** Bar and beat lines behind all threads. */
import { computed } from 'vue'

import { everyTicks, type TimeScale } from './geometry/scale'

const props = defineProps<{ barTicks: number; beatTicks: number; scale: TimeScale }>()

const lines = (every: number) =>
  everyTicks(every, props.scale)
    .map(({ x }) => `M${x} 0v4000`)
    .join('')
const bars = computed(() => lines(props.barTicks))
const beats = computed(() => lines(props.beatTicks))
</script>

<template>
  <svg class="bar-lines" :width="scale.width" height="100%" aria-hidden="true">
    <path class="beats" :d="beats" />
    <path class="bars" :d="bars" />
  </svg>
</template>

<style scoped>
.bar-lines {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.beats {
  stroke: var(--rule);
  stroke-width: 1;
}
.bars {
  stroke: color-mix(in srgb, var(--soft-ink) 60%, transparent);
  stroke-width: 1.5;
}
</style>

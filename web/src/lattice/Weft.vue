<script setup lang="ts">
/** Bar and beat lines behind all threads. */
import { computed } from 'vue'

import { xOf, type Scale } from './geometry'

const props = defineProps<{ barTicks: number; beatTicks: number; scale: Scale }>()

const lines = (every: number) => {
  const { firstTick, endTick } = props.scale
  const count = Math.floor((endTick - firstTick) / every)
  return Array.from(
    { length: count + 1 },
    (_, at) => `M${xOf(firstTick + at * every, props.scale)} 0v4000`,
  ).join('')
}
const bars = computed(() => lines(props.barTicks))
const beats = computed(() => lines(props.beatTicks))
</script>

<template>
  <svg class="weft" :width="scale.width" height="100%" aria-hidden="true">
    <path class="beats" :d="beats" />
    <path class="bars" :d="bars" />
  </svg>
</template>

<style scoped>
.weft {
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

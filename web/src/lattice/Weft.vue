<script setup lang="ts">
/** Bar and beat lines behind all threads. */
import { computed } from 'vue'

import type { Rendering } from '@/api/client'
import { xOf, type Scale } from './geometry'

const props = defineProps<{ rendering: Rendering; scale: Scale }>()

const lines = (every: number) => {
  const { first_tick, end_tick } = props.rendering
  const count = Math.floor((end_tick - first_tick) / every)
  return Array.from(
    { length: count + 1 },
    (_, at) => `M${xOf(first_tick + at * every, props.scale)} 0v4000`,
  ).join('')
}
const bars = computed(() => lines(props.rendering.bar_ticks))
const beats = computed(() => lines(props.rendering.beat_ticks))
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

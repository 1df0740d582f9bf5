<script setup lang="ts">
/** A piece's first bar as threads and beads. */
import type { Schemas } from '@/api/client'
import { inkOf } from '@/theme/inks'

defineProps<{ threads: readonly Schemas['CoverThread'][] }>()
const WIDTH = 340
const HEIGHT = 150
const PAD = 16
const yOf = (row: number, count: number) => ((row + 0.5) * (HEIGHT - 16)) / count + 8
const rOf = (velocity: number, count: number) => Math.min(7, 56 / count) * (0.4 + 0.6 * (velocity / 127))
</script>

<template>
  <svg
    class="inked"
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    preserveAspectRatio="xMidYMid slice"
    width="100%"
    :height="HEIGHT"
    aria-hidden="true"
  >
    <g v-for="({ ink, hits, velocities }, row) in threads" :key="row" :fill="inkOf(ink)" :stroke="inkOf(ink)">
      <line
        x1="0"
        :x2="WIDTH"
        :y1="yOf(row, threads.length)"
        :y2="yOf(row, threads.length)"
        stroke-width="1.3"
        opacity="0.7"
      />
      <circle
        v-for="(place, at) in hits"
        :key="at"
        :cx="PAD + place * (WIDTH - PAD)"
        :cy="yOf(row, threads.length)"
        :r="rOf(velocities[at] ?? 100, threads.length)"
        stroke="none"
      />
    </g>
  </svg>
</template>

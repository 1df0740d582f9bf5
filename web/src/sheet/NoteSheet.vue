<script setup lang="ts">
/** A clip's notes, drawn: a line a lane, true to time. */
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { inkOf } from '@/theme/inks'

const props = defineProps<{ clip: Schemas['Clip']; bars: number; width: number; height: number }>()

const rows = computed(() => {
  const rowHeight = (props.height - 8) / Math.max(1, props.clip.tracks.length)
  const perTick = props.width / props.clip.length_ticks
  return props.clip.tracks.map(({ ink, notes }, row) => {
    const y = 4 + (row + 0.5) * rowHeight
    const shapes = notes.map(([start, length, , velocity]) => {
      const r = Math.min(rowHeight * 0.46, 4.5) * (0.45 + 0.55 * (velocity / 127))
      const w = Math.max(Math.min(length, props.clip.length_ticks - start) * perTick - 1, 2 * r)
      return { x: start * perTick, y: y - r, width: w, height: 2 * r, r }
    })
    return { key: row, ink: inkOf(ink), y, shapes }
  })
})
const barLines = computed(() =>
  Array.from({ length: props.bars - 1 }, (_, at) => ((at + 1) * props.width) / props.bars),
)
</script>

<template>
  <svg
    class="sheet inked"
    :width="width"
    :height="height"
    role="img"
    :aria-label="`Note sheet of ${clip.name}`"
  >
    <line v-for="x in barLines" :key="x" class="bar" :x1="x" :x2="x" y1="0" :y2="height" />
    <g v-for="row in rows" :key="row.key" :style="{ color: row.ink }">
      <line class="thread" x1="0" :x2="width" :y1="row.y" :y2="row.y" />
      <rect
        v-for="shape in row.shapes"
        :key="shape.x"
        :x="shape.x"
        :y="shape.y"
        :width="shape.width"
        :height="shape.height"
        :rx="shape.r"
      />
    </g>
  </svg>
</template>

<style scoped>
.sheet {
  display: block;
}
.bar {
  stroke: var(--rule);
  stroke-width: 1.5;
}
.thread {
  stroke: currentColor;
  opacity: 0.25;
}
rect {
  fill: currentColor;
  fill-opacity: 0.85;
}
</style>

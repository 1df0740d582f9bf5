<script setup lang="ts">
/** Notes, drawn: a line a lane, true to time. */
import { computed } from 'vue'

import type { SheetTrack } from '@/api/client'
import { barLinesOf, filling, xIn } from '@/lattice/geometry/scale'
import { inkOf } from '@/theme/inks'
import { notesPath } from './path'

const props = defineProps<{
  name: string
  tracks: readonly SheetTrack[]
  lengthTicks: number
  barTicks: number
  width: number
  height: number
  /** Places of the notes that only this one has, track by track; the others are pale. Null: all alike. */
  only?: readonly (readonly number[])[] | null
  /** Notes that only another one has, in outline; tracks are found by their names. */
  beside?: { tracks: readonly SheetTrack[]; only: readonly (readonly number[])[] } | null
  /** Where the music is, in ticks; null: elsewhere. */
  nowTick?: number | null
}>()

/** Tracks by their names; of several of one name the first, the second ... */
const keysOf = (tracks: readonly SheetTrack[]) =>
  tracks.map(({ lane }, at) => `${lane} ${tracks.slice(0, at).filter((one) => one.lane === lane).length}`)
const own = computed(() => keysOf(props.tracks))
const others = computed(() => keysOf(props.beside?.tracks ?? []))
const lanes = computed(() => [...own.value, ...others.value.filter((key) => !own.value.includes(key))])
const rows = computed(() => {
  const rowHeight = (props.height - 8) / Math.max(1, lanes.value.length)
  return lanes.value.map((lane, row) => {
    const y = 4 + (row + 0.5) * rowHeight
    const r = Math.min(rowHeight * 0.46, 4.5)
    const at = own.value.indexOf(lane)
    const other = others.value.indexOf(lane)
    const ours = props.tracks[at]
    const theirs = props.beside?.tracks[other]
    const only = props.only ? new Set(props.only[at] ?? []) : null
    const path = (track: SheetTrack | undefined, isMeant: (place: number) => boolean) =>
      notesPath(track?.notes ?? [], isMeant, { zoom: zoom.value, y, r, lengthTicks: props.lengthTicks })
    const besides = new Set(props.beside?.only[other] ?? [])
    return {
      lane,
      y,
      ink: inkOf((ours ?? theirs)?.ink ?? 0),
      full: path(ours, (place) => !only || only.has(place)),
      pale: only ? path(ours, (place) => !only.has(place)) : '',
      outline: path(theirs, (place) => besides.has(place)),
    }
  })
})
const barLines = computed(() => barLinesOf(props.lengthTicks, props.barTicks, props.width))
const zoom = computed(() => filling(props.lengthTicks, props.width))
const now = computed(() => (typeof props.nowTick === 'number' ? xIn(props.nowTick, zoom.value) : null))
</script>

<template>
  <svg class="sheet" :width="width" :height="height" role="img" :aria-label="`Note sheet of ${name}`">
    <g class="inked">
      <line v-for="x in barLines" :key="x" class="bar" :x1="x" :x2="x" y1="0" :y2="height" />
      <g v-for="row in rows" :key="row.lane" :style="{ color: row.ink }">
        <line class="thread" x1="0" :x2="width" :y1="row.y" :y2="row.y" />
        <path v-if="row.pale" class="pale" :d="row.pale" />
        <path class="full" :d="row.full" />
        <path v-if="row.outline" class="outline" :d="row.outline" />
      </g>
    </g>
    <line v-if="now !== null" class="now" :x1="now" :x2="now" y1="0" :y2="height" />
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
.full {
  fill: currentColor;
  fill-opacity: 0.85;
}
.pale {
  fill: currentColor;
  fill-opacity: 0.16;
}
.outline {
  fill: var(--card);
  stroke: currentColor;
  stroke-width: 1.4;
}
.now {
  stroke: var(--act);
  stroke-width: 2;
}
</style>

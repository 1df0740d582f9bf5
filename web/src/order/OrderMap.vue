<script setup lang="ts">
/** The order whole, in true time: a block a row, its bars as busy as they are, its chords; where the music is. */
import { computed, ref } from 'vue'

import type { OrderPicture, RowPicture } from '@/engine/order'
import { useFrames } from '@/page/useFrames'
import { useDrag } from '@/page/useDrag'
import { usePlaying } from '@/playing/playing'
import { useOrder } from '@/playing/order'
import { inkOf } from '@/theme/inks'
import { usePiece } from '@/work/piece'
import { elapsed } from '@/sound/time'
import { chordsOf, columnsOf, placeAt, WIDTH, xAt } from './map'

const props = defineProps<{ picture: OrderPicture; chosen: number }>()
const emit = defineEmits<{ choose: [place: number] }>()
const piece = usePiece()
const playing = usePlaying()
const order = useOrder()
const HEIGHT = 132
const TOP = 26
const FOOT = 108

const patterns = computed(() => new Map(piece.patterns.map((one) => [one.id, one])))
const nameOf = (row: RowPicture) => patterns.value.get(row.pattern)?.name ?? ''
const inkOfRow = (row: RowPicture) => inkOf(patterns.value.get(row.pattern)?.ink ?? 0)
const blocks = computed(() =>
  props.picture.rows.map((row) => {
    const whole = props.picture.ticks
    const [x, end] = [xAt(row.start, whole), xAt(row.end, whole)]
    return {
      row,
      x,
      width: end - x,
      columns: columnsOf(row, props.picture, FOOT - TOP - 26),
      chords: chordsOf(row, whole),
    }
  }),
)
const isInLoop = (place: number) => order.loop !== null && place >= order.loop[0] && place <= order.loop[1]

const head = ref<number | null>(null)
useFrames(
  () => {
    const row = order.isPlaying ? props.picture.rows[order.at] : undefined
    const tick = playing.player?.nowTick ?? 0
    head.value =
      row && playing.player?.row
        ? xAt(Math.min(row.end, elapsed(row.start, tick, 0)), props.picture.ticks)
        : null
  },
  () => order.isPlaying,
  () => [playing.player, order.at],
  30,
)

/** A click chooses a row, a drag over several lets them go round. */
const svg = ref<SVGSVGElement>()
function placeOf(event: PointerEvent): number {
  const box = svg.value?.getBoundingClientRect()
  return box ? placeAt((event.clientX - box.left) / box.width, props.picture) : 0
}
const drag = useDrag((event) => {
  const from = placeOf(event)
  emit('choose', from)
  return {
    move(moved) {
      const to = placeOf(moved)
      if (to !== from) order.loop = [Math.min(from, to), Math.max(from, to)]
    },
  }
})
</script>

<template>
  <svg
    ref="svg"
    class="map inked"
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    preserveAspectRatio="none"
    role="img"
    :aria-label="`The order: ${picture.rows.length} rows, ${picture.bars} bars, ${picture.lasts}`"
    v-bind="drag.on"
  >
    <g
      v-for="{ row, x, width, columns, chords } in blocks"
      :key="row.place"
      :class="{ chosen: row.place === chosen, heard: order.isPlaying && row.place === order.at }"
    >
      <rect
        :x="x"
        :y="TOP"
        :width="Math.max(1, width - 1.5)"
        :height="FOOT - TOP"
        class="block"
        :fill="inkOfRow(row)"
      />
      <rect
        v-for="one in columns"
        :key="one.x"
        :x="one.x"
        :y="FOOT - one.height"
        :width="one.width"
        :height="one.height"
        :fill="inkOfRow(row)"
      />
      <rect
        v-if="isInLoop(row.place)"
        :x="x"
        :y="TOP - 7"
        :width="Math.max(1, width - 1.5)"
        height="4"
        class="round"
      />
      <text v-for="chord in chords" :key="chord.x" :x="chord.x + 3" :y="FOOT + 17" class="chord">
        {{ chord.name }}
      </text>
      <text v-if="width > 26" :x="x + 6" :y="TOP + 19" class="named name">{{ nameOf(row) }}</text>
      <text v-if="width > 60" :x="x + 6" y="13" class="when">{{ row.begins }}</text>
    </g>
    <line v-if="head !== null" :x1="head" :x2="head" y1="4" :y2="HEIGHT - 4" class="head" />
  </svg>
</template>

<style scoped>
.map {
  width: 100%;
  height: 132px;
  touch-action: pan-y;
  cursor: pointer;
  user-select: none;
}
.block {
  opacity: 0.16;
}
.chosen .block {
  opacity: 0.3;
}
.heard .block {
  stroke: var(--act);
  stroke-width: 2.5;
  opacity: 0.35;
}
.round {
  fill: var(--act);
}
.name {
  font-size: 17px;
  fill: var(--ink);
}
.when,
.chord {
  font-size: 13px;
  fill: var(--soft-ink);
}
.head {
  stroke: var(--act);
  stroke-width: 2;
}
</style>

<script setup lang="ts">
/** The lanes of a candidate in their first bar or two: what came and what went is ringed. A name anchors its lane. */
import { computed } from 'vue'

import type { Lane } from '@/api/client'
import type { Candidate } from '@/engine/around'
import { PAD, xOf, type TimeScale } from '@/lattice/geometry/scale'
import { useRovingRows } from '@/page/useRovingRows'
import { inkOf } from '@/theme/inks'

const props = defineProps<{ candidate: Candidate; lanes: readonly Lane[]; width: number }>()
const emit = defineEmits<{ anchor: [lane: Lane] }>()
const NAME = 112
const HEIGHT = 30
const room = computed(() => Math.max(40, props.width - NAME - 10))
const rows = computed(() => {
  const { threads, end_tick } = props.candidate
  const scale: TimeScale = { firstTick: 0, endTick: end_tick, width: room.value }
  const x = (tick: number) => xOf(tick, scale)
  const narrow = (steps: number) => (room.value - 2 * PAD) / Math.max(1, steps)
  return props.lanes.flatMap((lane, at) => {
    const thread = threads.find(({ id }) => id === lane.id)
    if (!thread) return []
    const r = Math.max(2, Math.min(7, narrow(thread.steps.length) / 2 - 1))
    return [
      {
        lane,
        digit: at < 9 ? at + 1 : null,
        r,
        rests: thread.steps.map(x),
        hits: thread.hits.map(x),
        ringed: [...thread.came, ...thread.gone].map(x),
        says: `${thread.hits.length} hits, ${thread.came.length} new, ${thread.gone.length} gone`,
      },
    ]
  })
})
const roving = useRovingRows(() => rows.value.map(({ lane }) => lane.id))
</script>

<template>
  <ul class="threads" v-bind="roving.on">
    <li v-for="{ lane, digit, r, rests, hits, ringed, says } in rows" :key="lane.id" :data-row="lane.id">
      <button
        v-tip="lane.anchored ? 'Anchored: it stays as it is. Free it' : 'Anchor it: it stays as it is'"
        type="button"
        class="name"
        :class="{ anchored: lane.anchored }"
        :tabindex="roving.stopOf(lane.id)"
        :aria-pressed="lane.anchored"
        @click="emit('anchor', lane)"
      >
        <span class="digit" aria-hidden="true">{{ digit }}</span>
        <span class="visually-hidden">Anchor </span><span class="said">{{ lane.name }}</span>
        <span class="visually-hidden">: {{ says }}</span>
        <svg v-if="lane.anchored" width="13" height="15" viewBox="0 0 13 15" aria-hidden="true">
          <path d="M6.5 4v10M3 6.5h7M1 9c0 3.5 2.5 5 5.5 5s5.5-1.5 5.5-5" />
          <circle cx="6.5" cy="2.3" r="1.6" />
        </svg>
      </button>
      <svg
        class="inked"
        :width="room"
        :height="HEIGHT"
        :style="{ color: inkOf(lane.ink) }"
        aria-hidden="true"
      >
        <line x1="4" :x2="room - 4" :y1="HEIGHT / 2" :y2="HEIGHT / 2" />
        <circle v-for="x in rests" :key="`r${x}`" class="rest" :cx="x" :cy="HEIGHT / 2" r="1.6" />
        <circle v-for="x in hits" :key="`h${x}`" class="hit" :cx="x" :cy="HEIGHT / 2" :r="r" />
        <circle
          v-for="x in ringed"
          :key="`c${x}`"
          class="ringed"
          :cx="x"
          :cy="HEIGHT / 2"
          :r="Math.min(12, r + 4)"
        />
      </svg>
    </li>
  </ul>
</template>

<style scoped>
.threads {
  list-style: none;
  overflow-y: auto;
  min-height: 0;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 32px;
}
.name {
  display: flex;
  align-items: center;
  gap: 6px;
  width: 112px;
  min-height: 28px;
  padding: 0 6px 0 2px;
  border-radius: 8px;
  font: 600 15px/1 var(--name-font);
  text-align: left;
  cursor: pointer;
}
.name:hover {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.said {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.anchored .said {
  font-weight: 800;
}
.digit {
  width: 14px;
  font: 500 13px/1 var(--text-font);
  color: var(--soft-ink);
  text-align: right;
}
.name svg {
  flex: none;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
}
.inked {
  flex: none;
}
.inked line {
  stroke: currentColor;
  stroke-width: 1.2;
  opacity: 0.5;
}
.rest {
  fill: currentColor;
  opacity: 0.5;
}
.hit {
  fill: currentColor;
}
.ringed {
  fill: none;
  stroke: var(--act);
  stroke-width: 2;
  stroke-dasharray: 3 2.5;
}
</style>

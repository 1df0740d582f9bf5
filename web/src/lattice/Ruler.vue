<script setup lang="ts">
/** Bars and beats of what is in view, and where all lanes meet. A click plays from the beat. */
import { computed, ref } from 'vue'

import type { Rendering } from '@/api/client'
import { PAD, pixelsPerTick, tickAt, xOf, type Scale } from './geometry'

const props = defineProps<{ rendering: Rendering; scale: Scale; isOfChosen: boolean }>()
const emit = defineEmits<{ playFrom: [tick: number] }>()

const element = ref<SVGSVGElement>()
const HEIGHT = 54
/** Pixels below which beats are not numbered, and not marked. */
const NUMBERED = 52
const MARKED = 9

const bars = computed(() => {
  const { first_tick, end_tick, bar_ticks } = props.rendering
  return Array.from({ length: (end_tick - first_tick) / bar_ticks }, (_, at) => {
    const tick = first_tick + at * bar_ticks
    return { number: tick / bar_ticks + 1, x: xOf(tick, props.scale) }
  })
})
const meets = computed(() =>
  props.isOfChosen ? 'The chosen lanes begin a cycle together here' : 'All lanes begin a cycle together here',
)
const isNumbered = computed(() => props.rendering.beat_ticks * pixelsPerTick(props.scale) >= NUMBERED)
const beats = computed(() => {
  const { bar_ticks, beat_ticks } = props.rendering
  if (beat_ticks * pixelsPerTick(props.scale) < MARKED) return []
  const inner = Array.from({ length: Math.max(0, bar_ticks / beat_ticks - 1) }, (_, at) => at + 2)
  return bars.value.flatMap(({ number, x }) =>
    inner.map((beat) => ({
      beat,
      key: `${number}:${beat}`,
      x: x + (beat - 1) * beat_ticks * pixelsPerTick(props.scale),
    })),
  )
})

function onClick(event: MouseEvent) {
  const left = element.value?.getBoundingClientRect().left ?? 0
  const { beat_ticks, first_tick } = props.rendering
  const tick = Math.round(tickAt(event.clientX - left, props.scale) / beat_ticks) * beat_ticks
  emit('playFrom', Math.max(first_tick, tick))
}
</script>

<template>
  <svg
    ref="element"
    class="ruler"
    :width="scale.width"
    :height="HEIGHT"
    role="img"
    aria-label="Ruler"
    @click="onClick"
  >
    <title>A click plays from there</title>
    <g v-for="bar in bars" :key="bar.number">
      <line class="bar" :x1="bar.x" :x2="bar.x" y1="14" :y2="HEIGHT" />
      <text class="bar-number named" :x="bar.x + 6" y="24">bar {{ bar.number.toLocaleString('en') }}</text>
    </g>
    <g v-for="beat in beats" :key="beat.key">
      <line class="beat" :x1="beat.x" :x2="beat.x" y1="38" :y2="HEIGHT" />
      <text v-if="isNumbered" class="beat-number" :x="beat.x" y="30">{{ beat.beat }}</text>
    </g>
    <path
      v-for="tick in rendering.meeting.at"
      :key="tick"
      class="meeting"
      :class="{ chosen: isOfChosen }"
      :d="`M${xOf(tick, scale)} ${HEIGHT - 20}l6 9-6 9-6-9z`"
    >
      <title>{{ meets }}</title>
    </path>
    <line class="foot" :x1="0" :x2="scale.width" :y1="HEIGHT - 0.5" :y2="HEIGHT - 0.5" />
    <rect x="0" y="0" :width="PAD" :height="HEIGHT" fill="transparent" />
  </svg>
</template>

<style scoped>
.ruler {
  display: block;
  cursor: pointer;
}
.bar {
  stroke: var(--soft-ink);
  stroke-width: 1.5;
}
.bar-number {
  font-size: 15px;
  fill: var(--ink);
}
.beat {
  stroke: var(--rule);
  stroke-width: 1.5;
}
.beat-number {
  font-size: 13px;
  text-anchor: middle;
  fill: var(--soft-ink);
}
.meeting {
  fill: var(--ink);
}
.meeting.chosen {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 2;
}
.foot {
  stroke: var(--rule);
}
</style>

<script setup lang="ts">
/** Bars and beats of what is in view, and where all lanes meet. A click plays from the beat. */
import { computed, ref } from 'vue'

import type { Rendering } from '@/api/client'
import { barOf, beatOf } from '@/sound/time'
import {
  everyTicks,
  lineBeside,
  PAD,
  pixelsOf,
  snappedTo,
  tickAt,
  xOf,
  type TimeScale,
} from './geometry/scale'

const props = defineProps<{
  barTicks: number
  beatTicks: number
  scale: TimeScale
  /** Ticks at which lanes begin a cycle together. */
  meetings: readonly number[]
  isOfChosen: boolean
  /** Where detours hold, and what they say. */
  away: Rendering['away']
}>()
const emit = defineEmits<{ playFrom: [tick: number] }>()

const element = ref<SVGSVGElement>()
const HEIGHT = 46
/** Pixels below which beats are not numbered, and not marked. */
const NUMBERED = 52
const MARKED = 9

const inView = (every: number) =>
  everyTicks(every, props.scale).filter(({ tick }) => tick < props.scale.endTick)
const bars = computed(() =>
  inView(props.barTicks).map(({ tick, x }) => ({ number: barOf(tick, props.barTicks) + 1, x })),
)
const meets = computed(() => (props.isOfChosen ? 'The chosen lanes line up here' : 'All lanes line up here'))
const detours = computed(() =>
  (props.away ?? []).map(({ start, end, says, by_hand }) => {
    const x = xOf(start, props.scale)
    return { x, width: Math.max(2, xOf(end, props.scale) - x), says, by_hand }
  }),
)
const isNumbered = computed(() => pixelsOf(props.beatTicks, props.scale) >= NUMBERED)
const beats = computed(() => {
  const { barTicks, beatTicks } = props
  if (pixelsOf(beatTicks, props.scale) < MARKED) return []
  return inView(beatTicks)
    .map(({ tick, x }) => ({ beat: beatOf(tick, barTicks, beatTicks) + 1, key: tick, x }))
    .filter(({ beat }) => beat > 1)
})

/** Where the keyboard stands; null until it comes here. */
const place = ref<number | null>(null)
const standsAt = computed(() => Math.max(props.scale.firstTick, place.value ?? props.scale.firstTick))
const placeText = computed(
  () =>
    `bar ${barOf(standsAt.value, props.barTicks) + 1}, beat ${beatOf(standsAt.value, props.barTicks, props.beatTicks) + 1}`,
)
function onKeyDown(event: KeyboardEvent) {
  if (event.ctrlKey || event.altKey || event.metaKey) return
  const { barTicks, beatTicks, scale } = props
  const to = (by: number, every: number) => (place.value = lineBeside(standsAt.value, by, every, scale))
  if (event.key === 'ArrowRight') to(1, beatTicks)
  else if (event.key === 'ArrowLeft') to(-1, beatTicks)
  else if (event.key === 'ArrowUp') to(1, barTicks)
  else if (event.key === 'ArrowDown') to(-1, barTicks)
  else if (event.key === 'Home') place.value = scale.firstTick
  else if (event.key === 'Enter') emit('playFrom', standsAt.value)
  else return
  event.preventDefault()
  event.stopPropagation()
}
function onClick(event: MouseEvent) {
  const left = element.value?.getBoundingClientRect().left ?? 0
  const tick = snappedTo(tickAt(event.clientX - left, props.scale), props.beatTicks)
  emit('playFrom', Math.max(props.scale.firstTick, tick))
}
</script>

<template>
  <svg
    ref="element"
    class="ruler"
    :width="scale.width"
    :height="HEIGHT"
    role="slider"
    tabindex="0"
    data-owns-keys
    aria-label="Ruler: arrows go by beats and bars, Enter plays from there"
    :aria-valuemin="scale.firstTick"
    :aria-valuemax="scale.endTick"
    :aria-valuenow="standsAt"
    :aria-valuetext="placeText"
    @click="onClick"
    @keydown="onKeyDown"
    @focus="place = standsAt"
    @blur="place = null"
  >
    <title>A click plays from there</title>
    <rect
      v-if="place !== null"
      class="stands"
      :x="xOf(standsAt, scale) - 9"
      :width="18"
      y="1"
      :height="HEIGHT - 2"
      rx="6"
    />
    <g v-for="bar in bars" :key="bar.number">
      <line class="bar" :x1="bar.x" :x2="bar.x" y1="8" :y2="HEIGHT" />
      <text class="bar-number named" :x="bar.x + 6" y="20">bar {{ bar.number.toLocaleString('en') }}</text>
    </g>
    <g v-for="beat in beats" :key="beat.key">
      <line class="beat" :x1="beat.x" :x2="beat.x" y1="31" :y2="HEIGHT" />
      <text v-if="isNumbered" class="beat-number" :x="beat.x" y="25">{{ beat.beat }}</text>
    </g>
    <path
      v-for="tick in meetings"
      :key="tick"
      class="meeting"
      :class="{ chosen: isOfChosen }"
      :d="`M${xOf(tick, scale)} ${HEIGHT - 20}l6 9-6 9-6-9z`"
    >
      <title>{{ meets }}</title>
    </path>
    <g v-for="one in detours" :key="`${one.x} ${one.says}`" class="detour">
      <rect :x="one.x" :width="one.width" :y="HEIGHT - 5" height="5" />
      <text
        v-if="one.width > 90 && !one.by_hand"
        :x="one.x + one.width - 6"
        :y="HEIGHT - 9"
        text-anchor="end"
      >
        {{ one.says }}
      </text>
      <title>Detour: {{ one.says }}</title>
    </g>
    <line class="foot" :x1="0" :x2="scale.width" :y1="HEIGHT - 0.5" :y2="HEIGHT - 0.5" />
    <rect x="0" y="0" :width="PAD" :height="HEIGHT" fill="transparent" />
  </svg>
</template>

<style scoped>
.ruler {
  display: block;
  cursor: pointer;
}
.stands {
  fill: color-mix(in srgb, var(--keep) 55%, transparent);
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
.detour rect {
  fill: var(--act);
}
.detour text {
  font-size: 13px;
  fill: var(--act-text);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4;
}
.foot {
  stroke: var(--rule);
}
</style>

<script setup lang="ts">
/** A ground as a plane: its stands as small threads; the hand moves all lanes on it that are neither anchored nor pinned. */
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'

import type { Lane } from '@/api/client'
import type { Ground } from '@/engine/around'
import { newGesture } from '@/page/gesture'
import { useDrag } from '@/page/useDrag'
import { goesAlong, standsOn } from './onGround'
import { inkOf } from '@/theme/inks'

const props = defineProps<{ ground: Ground; lanes: readonly Lane[] }>()
const emit = defineEmits<{ move: [place: { x: number; y: number }, gesture: string] }>()
const SIDE = 100
const PAD = { x: 72, y: 52 }
const [CELL, ROW] = [7, 8]

const element = useTemplateRef<HTMLElement>('element')
const { width, height } = useElementSize(element)
const xOf = (x: number) => PAD.x + (x / SIDE) * (width.value - 2 * PAD.x)
const yOf = (y: number) => height.value - PAD.y - (y / SIDE) * (height.value - 2 * PAD.y)

const onIt = computed(() => props.lanes.filter((lane) => standsOn(lane, props.ground.id)))
const free = computed(() => onIt.value.filter(goesAlong))
const staying = computed(() => onIt.value.filter((lane) => !goesAlong(lane)))
/** Where the hand is: with the first lane that it moves. */
const hand = computed(() => {
  const first = free.value[0]?.source
  return first ? { x: first.x, y: first.y } : null
})
const stands = computed(() =>
  props.ground.stands.map((stand) => {
    const rows = (['low', 'back', 'hat'] as const).flatMap((part, row) =>
      (stand.parts[part] ?? []).map((strength, step) => ({
        x: (step - props.ground.steps / 2 + 0.5) * CELL,
        y: (row - 1) * ROW,
        r: [0.7, 1.4, 2.1, 2.8][strength] ?? 0.7,
      })),
    )
    return { name: stand.name, x: xOf(stand.x), y: yOf(stand.y), rows }
  }),
)

let gesture = newGesture('ground')
function moveTo(x: number, y: number) {
  const within = (value: number) => Math.round(Math.min(SIDE, Math.max(0, value)))
  const place = { x: within(x), y: within(y) }
  if (place.x !== hand.value?.x || place.y !== hand.value.y) emit('move', place, gesture)
}
function moveToPointer({ clientX, clientY }: PointerEvent) {
  const at = element.value?.getBoundingClientRect()
  if (!at) return
  moveTo(
    ((clientX - at.left - PAD.x) / (width.value - 2 * PAD.x)) * SIDE,
    ((height.value - PAD.y - (clientY - at.top)) / (height.value - 2 * PAD.y)) * SIDE,
  )
}
const drag = useDrag((event) => {
  if (!hand.value) return null
  gesture = newGesture('ground')
  element.value?.focus({ preventScroll: true })
  moveToPointer(event)
  return { move: moveToPointer, end: () => (gesture = newGesture('ground')) }
})
const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
}
function onKeyDown(event: KeyboardEvent) {
  const [dx, dy] = STEPS[event.key] ?? [0, 0]
  if ((!dx && !dy) || !hand.value || event.altKey || event.ctrlKey) return
  const by = event.shiftKey ? 1 : 5
  moveTo(hand.value.x + dx * by, hand.value.y + dy * by)
  event.preventDefault()
  event.stopPropagation()
}
function goTo(name: string) {
  const stand = props.ground.stands.find((one) => one.name === name)
  gesture = newGesture('ground')
  if (stand) moveTo(stand.x, stand.y)
}
</script>

<template>
  <div
    ref="element"
    class="plane"
    tabindex="0"
    role="application"
    data-owns-keys
    aria-roledescription="ground"
    :aria-label="`${ground.name}: ${free.length} lanes move with the hand${hand ? `, at ${hand.x} across, ${hand.y} up` : ''}. Arrow keys move it, with Shift a little.`"
    v-bind="drag.on"
    @focus="gesture = newGesture('ground')"
    @keydown="onKeyDown"
  >
    <svg :width="width" :height="height">
      <text class="axis" x="16" y="24">↑ busier</text>
      <text class="axis" x="16" :y="height - 12">← on the beat</text>
      <text class="axis" :x="width - 16" :y="height - 12" text-anchor="end">more syncopated →</text>
      <g
        v-for="stand in stands"
        :key="stand.name"
        class="stand"
        :transform="`translate(${stand.x} ${stand.y})`"
      >
        <circle v-for="(dot, at) in stand.rows" :key="at" :cx="dot.x" :cy="dot.y" :r="dot.r" />
        <text y="24" text-anchor="middle" role="button" @pointerdown.stop @click="goTo(stand.name)">
          {{ stand.name }}
        </text>
      </g>
      <g v-for="{ id, name, ink, source } in staying" :key="id" class="staying">
        <rect
          :x="xOf(source.x) - 6"
          :y="yOf(source.y) - 6"
          width="12"
          height="12"
          rx="2"
          :style="{ fill: inkOf(ink) }"
        />
        <text :x="xOf(source.x) + 11" :y="yOf(source.y) + 5">{{ name }}</text>
      </g>
      <g v-if="hand" class="hand">
        <line :x1="xOf(hand.x)" :x2="xOf(hand.x)" :y1="PAD.y / 2" :y2="height - PAD.y / 2" />
        <line :x1="PAD.x / 2" :x2="width - PAD.x / 2" :y1="yOf(hand.y)" :y2="yOf(hand.y)" />
        <circle :cx="xOf(hand.x)" :cy="yOf(hand.y)" r="14" />
        <text class="named" :x="xOf(hand.x) + 20" :y="yOf(hand.y) - 12">
          {{ free.length === 1 ? free[0]!.name : `${free.length} lanes` }}
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.plane {
  position: relative;
  min-height: 0;
  border: 1.5px solid var(--rule);
  border-radius: 18px;
  background: var(--card);
  overflow: hidden;
  touch-action: none;
  cursor: grab;
  user-select: none;
}
.plane:active {
  cursor: grabbing;
}
svg {
  display: block;
  position: absolute;
  inset: 0;
}
.axis {
  font-size: 14px;
  fill: var(--soft-ink);
}
.stand circle {
  fill: var(--ink);
  opacity: 0.75;
}
.stand text {
  font-size: 14px;
  fill: var(--soft-ink);
  cursor: pointer;
}
.stand text:hover {
  fill: var(--ink);
  text-decoration: underline;
}
.staying text,
.hand text {
  font-size: 15px;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 4;
}
.hand line {
  stroke: var(--act);
  stroke-width: 1;
  stroke-dasharray: 3 5;
}
.hand circle {
  fill: var(--act);
  stroke: var(--card);
  stroke-width: 3;
}
</style>

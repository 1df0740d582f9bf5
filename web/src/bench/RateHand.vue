<script setup lang="ts">
/** One lane's step under one hand while it runs: a row of step values to press or to drag along. */
import { computed, ref } from 'vue'

import type { Bench, Schemas } from '@/api/client'
import { newGesture } from '@/page/gesture'
import { useDrag } from '@/page/useDrag'

/** `rates`: what the engine offers, slow to fast; `rate`: which of them the lane has, or the next slower one. */
const props = defineProps<{ name: string; rates: Bench['rates']; rate: number }>()
const emit = defineEmits<{ rate: [place: number, gesture: string] }>()

const row = ref<HTMLElement>()
const here = computed(() => props.rates.findIndex(({ chosen }) => chosen))

function at(event: PointerEvent): number {
  const { left, width } = row.value?.getBoundingClientRect() ?? new DOMRect()
  const place = Math.floor(((event.clientX - left) / width) * props.rates.length)
  return Math.min(props.rates.length - 1, Math.max(0, place))
}
function take(place: number, gesture: string) {
  if (place !== here.value) emit('rate', place, gesture)
}
const drag = useDrag((event) => {
  const gesture = newGesture('rate')
  take(at(event), gesture)
  return { move: (moved) => take(at(moved), gesture) }
})
function onKeyDown(event: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key]
  if (!by || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  event.stopPropagation()
  take(Math.min(props.rates.length - 1, Math.max(0, props.rate + by)), newGesture('rate'))
}
</script>

<template>
  <div
    ref="row"
    v-tip="
      'The step, moved while it runs: drag along, or use Q and W. It keeps its place in the bar. t: triplets.'
    "
    class="rates"
    role="slider"
    tabindex="0"
    data-owns-keys
    :aria-label="`${name}: step under one hand`"
    aria-valuemin="0"
    :aria-valuemax="rates.length - 1"
    :aria-valuenow="here"
    :aria-valuetext="here < 0 ? 'another step value' : rates[here]?.text"
    v-bind="drag.on"
    @keydown="onKeyDown"
  >
    <span
      v-for="({ key, text, patch }, place) in rates"
      :key="key"
      :class="{
        here: place === here,
        triplet: (patch.step_value as Schemas['StepValue']).kind === 'triplet',
      }"
      >{{ text }}</span
    >
  </div>
</template>

<style scoped>
.rates {
  display: flex;
  width: 100%;
  height: 30px;
  border-radius: 15px;
  border: 1.5px solid var(--rule);
  overflow: hidden;
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
}
.rates span {
  flex: 1.4;
  display: grid;
  place-items: center;
  font: 650 12px/1 var(--text-font);
  color: var(--ink);
}
.rates .triplet {
  flex: 1.4;
  font-weight: 500;
  color: var(--soft-ink);
}
.rates .here {
  background: var(--ink);
  color: var(--paper);
}
@media (pointer: coarse) {
  .rates {
    height: 40px;
  }
}
</style>

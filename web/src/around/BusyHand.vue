<script setup lang="ts">
/** A hand on how busy a lane is: up it fills, down it thins out, all the way down is silence. */
import { computed, ref } from 'vue'

import type { Lane, Word } from '@/api/client'
import { useHands } from '@/hands/useHands'
import { newGesture } from '@/page/gesture'
import { useDrag } from '@/page/useDrag'
import { useTabStop } from '@/page/tabStop'

const props = defineProps<{ lane: Lane; word: Word }>()
const { edits } = useHands()
const stop = useTabStop()
const element = ref<HTMLElement>()
let gesture = newGesture('busy')
const begin = () => (gesture = newGesture('busy'))

function moveTo(value: number) {
  const to = Math.round(Math.min(props.word.high, Math.max(props.word.low, value)))
  if (to !== props.lane.busy) void edits.move(props.lane, props.word, to, gesture)
}
/** A pixel is a percent: one drag from silence to every step. */
const drag = useDrag((event) => {
  event.preventDefault()
  element.value?.focus({ preventScroll: true })
  begin()
  const [from, y] = [props.lane.busy, event.clientY]
  return { move: ({ clientY }) => moveTo(from + y - clientY), end: begin }
})
const STEPS: Readonly<Record<string, number>> = { ArrowUp: 5, ArrowRight: 1, ArrowDown: -5, ArrowLeft: -1 }
function onKeyDown(event: KeyboardEvent) {
  const by = STEPS[event.key]
  if (event.ctrlKey || event.altKey || event.metaKey) return
  if (by !== undefined) moveTo(props.lane.busy + by)
  else if (event.key === 'Delete' || event.key === 'Backspace') moveTo(0)
  else return
  event.preventDefault()
  event.stopPropagation()
}
const said = computed(() => {
  const { busy } = props.lane
  return busy ? `${busy > 0 ? 'busier' : 'sparser'} ${Math.abs(busy)} %` : 'as it is'
})
const fill = computed(() => {
  const share = props.lane.busy / 100
  return { y: share > 0 ? 10 - share * 9 : 10, height: Math.abs(share) * 9 }
})
</script>

<template>
  <span
    ref="element"
    v-tip="
      'Busy-ness: drag up and rests become hits, the strongest places first; down, and hits fall away. Delete makes it plain'
    "
    class="busy"
    role="spinbutton"
    :tabindex="stop"
    data-owns-keys
    :aria-label="`Busy-ness of ${lane.name}`"
    :aria-valuenow="lane.busy"
    :aria-valuemin="word.low"
    :aria-valuemax="word.high"
    :aria-valuetext="said"
    v-bind="drag.on"
    @click.stop
    @focus="begin"
    @keydown="onKeyDown"
  >
    <svg width="12" height="20" aria-hidden="true">
      <path class="way" d="M6 1v18M2.5 10h7" />
      <rect x="2.5" width="7" :y="fill.y" :height="fill.height" rx="1.5" />
    </svg>
  </span>
</template>

<style scoped>
.busy {
  display: grid;
  place-items: center;
  width: 28px;
  height: 28px;
  border-radius: 8px;
  cursor: ns-resize;
  touch-action: none;
}
.busy:hover {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.way {
  stroke: var(--soft-ink);
  stroke-width: 1.5;
}
rect {
  fill: var(--act);
}
</style>

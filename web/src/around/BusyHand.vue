<script setup lang="ts">
/** A hand on how busy a lane is: up it fills, down it thins out, all the way down is silence. */
import { computed } from 'vue'

import type { Lane, Word } from '@/api/client'
import { useHands } from '@/hands/useHands'
import { useSlider } from '@/page/useSlider'
import { useTabStop } from '@/page/tabStop'

const props = defineProps<{ lane: Lane; word: Word }>()
const { edits } = useHands()
const stop = useTabStop()
/** A pixel is a percent: one drag from silence to every step. */
const slider = useSlider({
  name: 'busy',
  value: () => props.lane.busy,
  min: () => props.word.low,
  max: () => props.word.high,
  unitsOf: ({ up }) => up,
  move: (value, gesture) => void edits.move(props.lane, props.word, value, gesture),
  plain: 0,
  coarse: 5,
})
const valueText = computed(() => {
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
    :aria-valuetext="valueText"
    v-bind="slider.on"
    @click.stop
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

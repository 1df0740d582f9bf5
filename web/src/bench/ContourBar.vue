<script setup lang="ts">
/** Contours to draw on a lane's pitches, between two values and with leaps no larger than wanted. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { StripPicture } from '@/api/client'
import { numberWord } from '@/sentence/number'
import NumberWord from '@/sentence/NumberWord.vue'
import type { ContourNeeds } from '@/hands/strips'
import { useHandSettings } from '@/hands/useHandSettings'

const props = defineProps<{ owner: string; strip: StripPicture }>()
const emit = defineEmits<{ draw: [asked: ContourNeeds] }>()

const CONTOURS: readonly (readonly [ContourNeeds['contour'], string, string])[] = [
  ['rise', 'M1 13L23 3', 'From the lowest to the highest'],
  ['fall', 'M1 3L23 13', 'From the highest to the lowest'],
  ['arch', 'M1 13L12 3L23 13', 'Up, and down again'],
  ['wave', 'M1 8L6 3L18 13L23 8', 'Up, down, and back to the middle'],
  ['wander', 'M1 8L5 6L8 9L12 7L15 11L19 9L23 10', 'A step or two from each to the next'],
  ['throw', 'M1 4h3M6 11h3M11 6h3M15 12h3M20 8h3', 'Anywhere within the leap'],
]
const { contourRange: range } = storeToRefs(useHandSettings())
const words = computed(() => {
  const { low, high, leap } = range.value
  return {
    low: numberWord('contour from', low, { min: props.strip.lowest, max: high }),
    high: numberWord('contour to', high, { min: low, max: props.strip.highest }),
    leap: numberWord('largest leap', leap, { min: 1, max: props.strip.highest - props.strip.lowest }),
  }
})
const set = (change: Partial<typeof range.value>) => (range.value = { ...range.value, ...change })
</script>

<template>
  <div class="contours" role="group" aria-label="Contours">
    <button
      v-for="[name, path, explains] in CONTOURS"
      :key="name"
      v-tip="explains"
      type="button"
      class="pill contour"
      :aria-label="`${name}: pitches of ${props.owner}`"
      @click="emit('draw', { contour: name, ...range })"
    >
      <svg viewBox="0 0 24 16" width="24" height="16" aria-hidden="true"><path :d="path" /></svg>
      {{ name }}
    </button>
    <span>
      from
      <NumberWord
        :word="words.low"
        owner="Contour"
        explains="No pitch goes below it"
        @move="(value) => set({ low: Number(value) })"
      />
      to
      <NumberWord
        :word="words.high"
        owner="Contour"
        explains="No pitch goes above it"
        @move="(value) => set({ high: Number(value) })"
      />, leaps up to
      <NumberWord
        :word="words.leap"
        owner="Contour"
        explains="No pitch is further from the one before"
        @move="(value) => set({ leap: Number(value) })"
      />
    </span>
  </div>
</template>

<style scoped>
.contours {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 4px;
  font-size: 14px;
  color: var(--soft-ink);
}
.contour {
  display: inline-flex;
  align-items: center;
  gap: 5px;
}
path {
  fill: none;
  stroke: var(--lane-ink, currentColor);
  stroke-width: 2.4;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>

<script setup lang="ts">
/** How far a throw moves hits, and the throws. */
import { storeToRefs } from 'pinia'

import { ThrowQuestion } from '@/api/limits.json'
import { useHandSettings } from '@/hands/useHandSettings'

defineProps<{ isAnchored: boolean; follows: boolean }>()
const { throwPercent } = storeToRefs(useHandSettings())
const emit = defineEmits<{ throwLane: [percent: number]; throwAll: [percent: number] }>()
</script>

<template>
  <div class="throw">
    <button
      v-tip="
        isAnchored
          ? 'This lane is anchored'
          : follows
            ? 'This lane follows another: throw that one'
            : 'Move some of this lane’s hits to other steps (T)'
      "
      type="button"
      class="word-button"
      :disabled="isAnchored || follows"
      @click="emit('throwLane', throwPercent)"
    >
      Throw
    </button>
    <button
      v-tip="'All lanes that are not anchored (Shift+T)'"
      type="button"
      class="word-button"
      @click="emit('throwAll', throwPercent)"
    >
      Throw all
    </button>
    <label>
      by
      <input
        v-model.number="throwPercent"
        class="slider"
        type="range"
        v-bind="ThrowQuestion.percent"
        step="5"
        aria-label="How far a throw moves"
        data-owns-keys
      />
      <output>{{ throwPercent }} %</output>
    </label>
  </div>
</template>

<style scoped>
.throw {
  display: flex;
  align-items: center;
  gap: 8px;
  white-space: nowrap;
}
label {
  display: flex;
  align-items: center;
  gap: 6px;
}
output {
  min-width: 44px;
  font-weight: 700;
  color: var(--ink);
}
</style>

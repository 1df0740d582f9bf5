<script setup lang="ts">
/** The grid that hands keep to: any step value. */
import { StepValue } from '@/api/limits.json'
import type { Schemas } from '@/api/client'

const step = defineModel<Required<Schemas['StepValue']>>('step', { required: true })
const snaps = defineModel<boolean>('snaps', { required: true })
const NOTES = [1, 2, 4, 8, 16, 32, 64] as const
</script>

<template>
  <span class="grid-tools">
    <button type="button" class="quiet-button" :aria-pressed="snaps" @click="snaps = !snaps">
      {{ snaps ? 'snaps to' : 'free of' }}
    </button>
    <select v-model="step.note" class="small-field" aria-label="Grid: note value">
      <option v-for="note in NOTES" :key="note" :value="note">1/{{ note }}</option>
    </select>
    <select v-model="step.kind" class="small-field" aria-label="Grid: kind">
      <option value="plain">plain</option>
      <option value="dotted">dotted</option>
      <option value="triplet">triplet</option>
    </select>
    <label
      >×
      <input
        v-model.number="step.multiplier"
        class="small-field"
        type="number"
        v-bind="StepValue.multiplier"
        aria-label="Grid: times"
    /></label>
    <label
      >÷
      <input
        v-model.number="step.divisor"
        class="small-field"
        type="number"
        v-bind="StepValue.divisor"
        aria-label="Grid: shared by"
    /></label>
  </span>
</template>

<style scoped>
.grid-tools {
  display: flex;
  gap: 10px;
  align-items: center;
}
.small-field[type='number'] {
  width: 52px;
}
</style>

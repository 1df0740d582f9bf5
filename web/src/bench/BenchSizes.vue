<script setup lang="ts">
/** How much of the bench is shown, down to nothing. */
import { BENCH_SIZES, type BenchSize } from './sizes'

const size = defineModel<BenchSize>({ required: true })
const emit = defineEmits<{ fold: [] }>()
</script>

<template>
  <div class="size" role="group" aria-label="Size of the bench">
    <button
      v-for="[name, says] in BENCH_SIZES"
      :key="name"
      v-tip="`${says} (Shift+B: the next size)`"
      type="button"
      class="quiet-button"
      :aria-pressed="size === name"
      @click="size = name"
    >
      {{ name }}
    </button>
    <button
      v-tip="'Fold the bench (B)'"
      type="button"
      class="quiet-button"
      aria-label="Fold the bench"
      @click="emit('fold')"
    >
      fold
    </button>
  </div>
</template>

<style scoped>
.size {
  position: absolute;
  top: 4px;
  right: 8px;
  display: flex;
  gap: 2px;
  font-size: 14px;
}
.size [aria-pressed='true'] {
  color: var(--ink);
  font-weight: 650;
  box-shadow: inset 0 -2px 0 var(--ink);
}
</style>

<script setup lang="ts">
/** Throwing a strip between two values, and the other things that are done to all of it. */
import { computed } from 'vue'

import type { StripPicture } from '@/api/client'
import { numberWord } from '@/sentence/number'
import NumberWord from '@/sentence/NumberWord.vue'
import type { StripAction, StripOperation } from '@/hands/strips'
import { useHandSettings, type ThrowRange } from '@/hands/useHandSettings'

const props = defineProps<{
  strip: StripPicture
  owner: string
  /** The value that all others can take. */
  cursor: number
}>()
const emit = defineEmits<{ act: [action: StripAction] }>()

const settings = useHandSettings()
const range = computed(() => settings.throwRangeOf(props.strip))
const word = (name: string, value: number, min: number, max: number) =>
  numberWord(`throw ${props.strip.name} ${name}`, value, { min, max })
const lowWord = computed(() => word('from', range.value.low, props.strip.low, range.value.high))
const highWord = computed(() => word('to', range.value.high, range.value.low, props.strip.high))
const set = (change: Partial<ThrowRange>) => settings.setThrowRange(props.strip, change)

const throwIt = () => emit('act', { kind: 'throw', ...range.value })
const OF_PITCH: readonly (readonly [StripOperation, string, string])[] = [
  ['up', 'up', 'Every value one higher'],
  ['down', 'down', 'Every value one lower'],
  ['upside down', 'mirror', 'Upside down: the lowest becomes the highest'],
]
const OPERATIONS: readonly (readonly [StripOperation, string, string])[] = [
  ['earlier', '←', 'Every value one place earlier (Alt+←)'],
  ['later', '→', 'Every value one place later (Alt+→)'],
  ['reverse', 'reverse', 'The last value first (Alt+R)'],
  ['towards the middle', 'compress', 'Values closer to the middle (Alt+↓)'],
  ['away from the middle', 'expand', 'Values further from the middle (Alt+↑)'],
]
</script>

<template>
  <div class="acts">
    <button
      v-tip="'Values drawn between the two: plain ones, that can be undone (Alt+T)'"
      type="button"
      class="word-button"
      :aria-label="`Throw ${strip.name} of ${owner}`"
      @click="throwIt"
    >
      throw
    </button>
    <span class="range">
      <NumberWord
        :word="lowWord"
        :owner="owner"
        explains="No throw goes below it"
        @move="(value) => set({ low: Number(value) })"
      />
      –
      <NumberWord
        :word="highWord"
        :owner="owner"
        explains="No throw goes above it"
        @move="(value) => set({ high: Number(value) })"
      />
      <button
        type="button"
        class="quiet-button"
        @click="set({ shape: range.shape === 'even' ? 'middle' : 'even' })"
      >
        {{ range.shape === 'even' ? 'even odds' : 'leaning to the middle' }}
      </button>
    </span>
    <button
      v-for="[operation, said, explains] in strip.name === 'pitch'
        ? [...OPERATIONS, ...OF_PITCH]
        : OPERATIONS"
      :key="operation"
      v-tip="explains"
      type="button"
      class="quiet-button"
      :aria-label="`${strip.name} ${/^\w/.test(said) ? said : operation}`"
      @click="emit('act', { kind: 'operation', operation })"
    >
      {{ said }}
    </button>
    <button
      v-tip="'Every value as the one that was touched last (Alt+A)'"
      type="button"
      class="quiet-button"
      @click="emit('act', { kind: 'all', value: strip.values[cursor] ?? strip.plain })"
    >
      set all
    </button>
    <button
      v-tip="'Copy this strip (Ctrl+C on its bars)'"
      type="button"
      class="quiet-button"
      @click="emit('act', { kind: 'copy' })"
    >
      copy
    </button>
    <button
      v-tip="'The copied strip in place of this one (Ctrl+V on its bars)'"
      type="button"
      class="quiet-button"
      :disabled="!settings.copiedStrip"
      @click="emit('act', { kind: 'paste' })"
    >
      paste
    </button>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
}
.range {
  margin: 0 6px 0 8px;
  color: var(--ink);
}
.acts .quiet-button {
  padding: 2px 6px;
}
.acts .word-button {
  min-height: 28px;
  padding: 2px 12px;
}
.quiet-button:disabled {
  opacity: 0.4;
  cursor: default;
}
</style>

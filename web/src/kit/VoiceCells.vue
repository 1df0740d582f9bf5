<script setup lang="ts">
/** What can be set of a voice, a cell each, and whether it is played forward. */
import type { Voice } from '@/api/library'
import { provideTabStop } from '@/page/tabStop'
import NumberWord from '@/sentence/NumberWord.vue'
import { wordOf, type VoiceNumber } from './voiceNumbers'

/** `isStop`: whether the Tab key stops at its row. */
const props = defineProps<{ voice: Voice; numbers: readonly VoiceNumber[]; isStop: boolean }>()
const emit = defineEmits<{
  /** `label`: what was done, for the history; `gesture`: the same for all steps of one movement of the hand. */
  change: [label: string, fields: Partial<Voice>, gesture: string | null]
  cancel: [gesture: string]
}>()
const stop = provideTabStop(() => props.isStop)
</script>

<template>
  <td v-for="number in numbers" :key="number[0]">
    <NumberWord
      :word="wordOf(voice, number)"
      :owner="voice.name"
      :explains="number[2]"
      @move="
        (value, gesture) => emit('change', `${number[1]} ${value}`, { [number[0]]: Number(value) }, gesture)
      "
      @cancel="(gesture) => emit('cancel', gesture)"
    />
  </td>
  <td>
    <button
      type="button"
      class="quiet-button"
      :tabindex="stop"
      :aria-pressed="voice.reverse"
      :aria-label="`${voice.name} plays ${voice.reverse ? 'backward' : 'forward'}`"
      @click="emit('change', voice.reverse ? 'forward' : 'backward', { reverse: !voice.reverse }, null)"
    >
      {{ voice.reverse ? 'backward' : 'forward' }}
    </button>
  </td>
</template>

<style scoped>
td {
  padding: 1px 6px;
  white-space: nowrap;
}
</style>

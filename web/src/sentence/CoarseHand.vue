<script setup lang="ts">
/** A coarse hand on a number with many digits: from the first to the last in a thousand places; the number itself is the fine one. */
import { computed } from 'vue'

import type { Word } from '@/api/client'
import { newGesture } from '@/page/gesture'

const props = defineProps<{ word: Word; owner: string }>()
const emit = defineEmits<{ move: [value: string, gesture: string] }>()
const PLACES = 1000n
let gesture = newGesture('coarse')
const begin = () => (gesture = newGesture('coarse'))
const last = computed(() => BigInt(props.word.last_digits))
const place = computed(() => (last.value ? Number((BigInt(props.word.digits) * PLACES) / last.value) : 0))
const onInput = (event: Event) =>
  emit('move', String((last.value * BigInt((event.target as HTMLInputElement).value)) / PLACES), gesture)
</script>

<template>
  <input
    v-tip="'Through all of them, coarsely; the number itself goes one by one'"
    class="slider coarse"
    type="range"
    min="0"
    max="1000"
    data-owns-keys
    :value="place"
    :aria-label="`${owner}: ${word.name}, coarsely`"
    :aria-valuetext="word.text"
    @input="onInput"
    @focus="begin"
    @pointerdown="begin"
  />
</template>

<style scoped>
.coarse {
  width: 72px;
  height: 20px;
  margin: 0 6px;
  vertical-align: middle;
}
</style>

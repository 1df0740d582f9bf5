<script setup lang="ts">
/**
 * The words of one setting, which can be taken hold of. Words, limits and what they change come from the engine.
 */
import { computed } from 'vue'

import type { Part, Word } from '@/api/client'
import { useWords } from '@/hands/words'
import { useTabStop } from '@/page/tabStop'
import { valueAt, type Patch } from '@/work/document'
import ChoiceWord from './ChoiceWord.vue'
import CoarseHand from './CoarseHand.vue'
import NumberWord from './NumberWord.vue'

const props = defineProps<{
  part: Part
  owner: string
  ink: number
  barTicks: number
  /** Whether there is room for all hands on it, as on the bench. */
  isWhole?: boolean
}>()
/** `taken`: something was chosen from an open list; `patched`: a press has set fields. */
const emit = defineEmits<{ taken: []; patched: [] }>()
const hands = useWords()
const stop = useTabStop()

/** Letters from which on a part may go on over the end of a line; others stay in one piece. */
const LONG = 38
const isLong = computed(() => props.part.words.map(({ text }) => text).join('').length > LONG)

/** A number shows the document's value at once: the next touch must not wait for the engine's words. */
function asItStands(word: Word): Word {
  const value = word.field ? valueAt(hands.document(), word.field) : undefined
  if (word.kind === 'number' && typeof value === 'number' && value !== word.stored) {
    return { ...word, value, text: String(word.negated ? -value : value + word.counted_from) }
  }
  if (
    word.kind === 'digits' &&
    typeof value === 'string' &&
    value !== word.digits &&
    BigInt(value) <= BigInt(word.last_digits)
  ) {
    return { ...word, digits: value, text: (BigInt(value) + 1n).toLocaleString('en') } // people count from 1
  }
  return word
}

/** The same row while it says the same: then nothing is drawn again. */
const words = computed<readonly Word[]>((old) => {
  const now = props.part.words.map(asItStands)
  return old?.length === now.length && now.every((word, at) => word === old[at]) ? old : now
})
function patch(label: string, fields: Patch | null | undefined) {
  if (!fields) return
  emit('patched')
  hands.patch(label, fields)
}
const makePlain = () => patch(`no ${props.part.setting}`, props.part.plain)
</script>

<template>
  <span class="part" :class="{ red: part.red, long: isLong }">
    <template v-for="(word, place) in words" :key="place">
      <NumberWord
        v-if="word.kind === 'number' || word.kind === 'digits'"
        :word="word"
        :owner="owner"
        :explains="part.explains"
        :is-red="part.red"
        @move="(value, gesture, isTyped) => hands.move(word, value, gesture, isTyped)"
        @cancel="hands.cancel"
        @plain="makePlain"
      />
      <CoarseHand
        v-if="isWhole && word.kind === 'digits'"
        :word="word"
        :owner="owner"
        @move="(value, gesture) => hands.move(word, value, gesture, false)"
      />
      <ChoiceWord
        v-if="word.kind === 'choice'"
        :word="word"
        :owner="owner"
        :explains="part.explains"
        :is-red="part.red"
        :ink="ink"
        :bar-ticks="barTicks"
        :ask="() => hands.ask(part.setting, word.name)"
        @taken="emit('taken')"
        @choose="(alternative) => hands.choose(part.setting, word.name, alternative)"
        @plain="makePlain"
      />
      <button
        v-else-if="word.kind === 'act'"
        v-tip="'A press goes back to that'"
        type="button"
        class="act"
        :tabindex="stop"
        :aria-label="`${owner}: ${word.name}, ${word.text}`"
        @click="patch(word.name, word.patch)"
      >
        {{ word.text }}
      </button>
      <span v-else-if="word.kind === 'text'" class="text">{{ word.text }}</span>
    </template>
    <span class="visually-hidden">{{ part.red ? '(bends the result)' : '' }}</span>
  </span>
</template>

<style scoped>
.part {
  white-space: nowrap;
}
.part.long,
.part.long .text {
  white-space: pre-wrap;
}
.part :deep(.number),
.part :deep(.choice),
.act {
  color: var(--ink);
}
.part.red,
.part.red :deep(.number),
.part.red :deep(.choice) {
  color: var(--act-text);
}
.text {
  white-space: pre;
}
.act {
  padding: 3px 2px 1px;
  margin: -3px -1px -1px;
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
.act:hover {
  background: color-mix(in srgb, var(--keep) 45%, transparent);
}
</style>

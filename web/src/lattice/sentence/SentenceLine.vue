<script setup lang="ts">
/**
 * What acts on something, in words that can be taken hold of. The words, their limits and what they change all come from
 * the engine; `target` is the document they change.
 */
import { computed, shallowRef } from 'vue'

import type { Offer, Part, Word } from '@/api/client'
import { valueAt, type Patch } from '@/stores/document'
import ChoiceWord from './ChoiceWord.vue'
import NumberWord from './NumberWord.vue'

const props = defineProps<{
  owner: string
  parts: readonly Part[]
  offers?: readonly Offer[]
  target: object
}>()
const emit = defineEmits<{
  move: [word: Word, value: number | string, gesture: string]
  patch: [label: string, patch: Patch]
  cancel: [gesture: string]
}>()

/** A part that is held stays in place while its number passes its plain value, so that the hand does not lose it. */
const held = shallowRef<{ part: Part; at: number } | null>(null)
const shown = computed<readonly Part[]>(() => {
  const kept = held.value
  const isGone = kept && !props.parts.some(({ setting }) => setting === kept.part.setting)
  const parts = isGone ? props.parts.toSpliced(kept.at, 0, kept.part) : props.parts
  return parts.map((part) => ({ ...part, words: part.words.map(asItStands) }))
})

/** A number shows the document's value at once: the next touch must not wait for the engine's words. */
function asItStands(word: Word): Word {
  const value = word.field ? valueAt(props.target, word.field) : undefined
  if (word.kind === 'number' && typeof value === 'number' && value !== word.value) {
    return { ...word, value, text: String(value) }
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

const hold = (part: Part, at: number) => (held.value = { part, at })
const letGo = () => (held.value = null)

function makePlain(part: Part) {
  letGo()
  if (part.plain) emit('patch', `no ${part.setting}`, part.plain)
}
</script>

<template>
  <span class="sentence" @focusout="letGo">
    <template v-for="(part, at) in shown" :key="part.setting">
      <span v-if="at > 0" class="dot" aria-hidden="true"> · </span>
      <span class="part" :class="{ red: part.red }" @focusin="hold(part, at)">
        <template v-for="(word, place) in part.words" :key="place">
          <NumberWord
            v-if="word.kind === 'number' || word.kind === 'digits'"
            :word="word"
            :owner="owner"
            :explains="part.explains"
            :is-red="part.red"
            @move="(value, gesture) => emit('move', word, value, gesture)"
            @cancel="(gesture) => emit('cancel', gesture)"
            @plain="makePlain(part)"
          />
          <ChoiceWord
            v-else-if="word.kind === 'choice'"
            :word="word"
            :owner="owner"
            :explains="part.explains"
            :is-red="part.red"
            @choose="(text, patch) => emit('patch', text, patch)"
            @plain="makePlain(part)"
          />
          <span v-else class="text">{{ word.text }}</span>
        </template>
        <span class="visually-hidden">{{ part.red ? '(bends the result)' : '' }}</span>
      </span>
    </template>
    <button v-if="offers?.length" type="button" class="more" :aria-label="`${owner}: add a setting`">
      +
      <v-tooltip activator="parent">What else could act on this lane</v-tooltip>
      <v-menu activator="parent">
        <ul class="card offers">
          <li v-for="offer in offers" :key="offer.setting">
            <button type="button" class="offer" @click="emit('patch', offer.text, offer.patch)">
              <strong>{{ offer.text }}</strong>
              <span>{{ offer.explains }}</span>
            </button>
          </li>
        </ul>
      </v-menu>
    </button>
  </span>
</template>

<style scoped>
.sentence {
  font-size: 14px;
  line-height: 19px;
  color: var(--soft-ink);
}
.part {
  white-space: nowrap;
}
.part :deep(.number),
.part :deep(.choice) {
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
.dot {
  white-space: pre-wrap;
}
.more {
  min-width: 28px;
  height: 22px;
  margin: -3px 0 -3px 4px;
  border-radius: 8px;
  border: 1.5px dashed var(--rule);
  font: 700 15px/1 var(--text-font);
  color: var(--soft-ink);
  cursor: pointer;
}
.more:hover {
  color: var(--ink);
  border-color: var(--ink);
}
.offers {
  list-style: none;
  padding: 8px;
  width: 400px;
}
.offer {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 12px;
  width: 100%;
  padding: 8px 10px;
  border-radius: 8px;
  text-align: left;
  font-size: 14px;
  line-height: 1.35;
  cursor: pointer;
}
.offer span {
  color: var(--soft-ink);
}
.offer:hover,
.offer:focus-visible {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
</style>

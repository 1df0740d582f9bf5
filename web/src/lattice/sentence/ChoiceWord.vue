<script setup lang="ts">
/** A word in a sentence that opens its few alternatives. */
import type { Word } from '@/api/client'
import type { Patch } from '@/stores/document'

defineProps<{ word: Word; owner: string; explains: string; isRed?: boolean }>()
const emit = defineEmits<{ choose: [text: string, patch: Patch]; plain: [] }>()

const onKeyDown = (event: KeyboardEvent) => {
  if (event.key !== 'Delete' && event.key !== 'Backspace') return
  event.preventDefault()
  event.stopPropagation()
  emit('plain')
}
</script>

<template>
  <button
    type="button"
    class="choice"
    :class="{ red: isRed }"
    data-owns-keys
    :aria-label="`${owner}: ${word.name}, ${word.text}`"
    @keydown="onKeyDown"
  >
    {{ word.text }}<v-tooltip activator="parent">{{ explains }}</v-tooltip>
    <v-menu activator="parent">
      <ul class="card alternatives">
        <li v-for="choice in word.choices" :key="choice.text">
          <button
            type="button"
            class="alternative"
            :class="{ chosen: choice.chosen }"
            :aria-pressed="choice.chosen"
            @click="choice.chosen || emit('choose', choice.text, choice.patch)"
          >
            {{ choice.text }}
          </button>
        </li>
      </ul>
    </v-menu>
  </button>
</template>

<style scoped>
.choice {
  padding: 4px 2px 1px;
  margin: -4px -1px -1px;
  font-weight: 600;
  color: inherit;
  border-bottom: 1.5px dotted currentColor;
  cursor: pointer;
}
.choice:hover {
  background: color-mix(in srgb, var(--keep) 45%, transparent);
  border-bottom-style: solid;
}
.choice.red {
  color: var(--act-text);
}
.alternatives {
  list-style: none;
  padding: 8px;
  max-height: 60vh;
  overflow: auto;
  columns: 1;
}
.alternatives:has(li:nth-child(9)) {
  columns: 3;
}
.alternative {
  display: block;
  width: 100%;
  min-height: 32px;
  padding: 4px 12px;
  border-radius: 8px;
  text-align: left;
  font: 500 15px/1.3 var(--text-font);
  white-space: nowrap;
  cursor: pointer;
}
.alternative:hover,
.alternative:focus-visible {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.alternative.chosen {
  background: var(--ink);
  color: var(--paper);
}
</style>

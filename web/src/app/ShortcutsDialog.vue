<script setup lang="ts">
/** All keys that work now. */
import { activeShortcuts, useShortcuts, type Shortcuts } from '@/composables/useShortcuts'
import { shortcutsOpen } from './shortcutsOpen'

useShortcuts({ '?': { says: 'All keys', act: () => (shortcutsOpen.value = true) } })

const listed = (group: Shortcuts) => Object.entries(group).filter(([, { says }]) => says)
const NAMES: Record<string, string> = {
  ' ': 'Space', 'ArrowUp': '↑', 'ArrowDown': '↓', 'ArrowLeft': '←', 'ArrowRight': '→',
} // prettier-ignore
const nameOf = (key: string) =>
  NAMES[key] ??
  key.replace(/(^|\+)([a-z])$/, (_, plus: string, letter: string) => plus + letter.toUpperCase())
</script>

<template>
  <v-dialog v-model="shortcutsOpen" width="720">
    <section class="card keys" aria-label="Keys">
      <h2>Keys</h2>
      <dl v-for="(group, at) in activeShortcuts" :key="at">
        <template v-for="[key, { says }] in listed(group)" :key="key">
          <dt>
            <kbd>{{ nameOf(key) }}</kbd>
          </dt>
          <dd>{{ says }}</dd>
        </template>
      </dl>
      <button type="button" class="word-button" @click="shortcutsOpen = false">Close</button>
    </section>
  </v-dialog>
</template>

<style scoped>
.keys {
  padding: 22px 26px;
  columns: 2;
}
h2,
.word-button {
  column-span: all;
  margin-bottom: 10px;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 4px 10px;
  font-size: 15px;
  margin-bottom: 14px;
  break-inside: avoid;
}
kbd {
  padding: 1px 8px;
  border: 1.5px solid var(--rule);
  border-radius: 6px;
  background: var(--paper);
  color: var(--ink);
  font: 600 14px var(--text-font);
}
</style>

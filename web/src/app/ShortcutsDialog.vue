<script setup lang="ts">
/** All keys that work now. */
import { storeToRefs } from 'pinia'

import { useShortcuts, useShortcutState, type Shortcuts } from '@/page/useShortcuts'
import BeadLegend from './BeadLegend.vue'

const { active, isListOpen } = storeToRefs(useShortcutState())
useShortcuts({ '?': { says: 'All keys', act: () => (isListOpen.value = true) } })

const listed = (group: Shortcuts) => Object.entries(group).filter(([, { says }]) => says)
const ARROWS: Record<string, string> = { Up: '↑', Down: '↓', Left: '←', Right: '→' }
const nameOf = (key: string) =>
  key === ' '
    ? 'Space'
    : key
        .replace(/Arrow(\w+)/, (_, way: string) => ARROWS[way] ?? way)
        .replace(/(^|\+)([a-z])$/, (_, plus: string, letter: string) => plus + letter.toUpperCase())
</script>

<template>
  <v-dialog v-model="isListOpen" width="860" scrollable>
    <section class="card keys" aria-label="Shortcuts">
      <h2>Beads</h2>
      <BeadLegend />
      <h2>Shortcuts</h2>
      <div class="columns">
        <dl v-for="(group, at) in active" :key="at">
          <template v-for="[key, { says }] in listed(group)" :key="key">
            <dt>
              <kbd>{{ nameOf(key) }}</kbd>
            </dt>
            <dd>{{ says }}</dd>
          </template>
        </dl>
      </div>
      <button type="button" class="word-button" @click="isListOpen = false">Close</button>
    </section>
  </v-dialog>
</template>

<style scoped>
.keys {
  padding: 18px 26px;
  overflow-y: auto;
}
.columns {
  columns: 2;
}
h2 {
  margin-bottom: 6px;
  font-size: 19px;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 4px 10px;
  font-size: 15px;
  margin-bottom: 14px;
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

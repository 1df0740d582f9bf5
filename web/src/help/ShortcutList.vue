<script setup lang="ts">
/** All keys that work now. */
import { useShortcutState, type Shortcuts } from '@/page/useShortcuts'

const state = useShortcutState()
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
  <div class="columns">
    <dl v-for="(group, at) in state.active" :key="at">
      <template v-for="[key, { says }] in listed(group)" :key="key">
        <dt>
          <kbd>{{ nameOf(key) }}</kbd>
        </dt>
        <dd>{{ says }}</dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
.columns {
  columns: 2;
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

<script setup lang="ts">
/** Keeping the bars that sounded last, or those that will sound next. */
import { useTimeoutFn } from '@vueuse/core'
import { useKeeping } from '@/playing/keeping'
import { computed, ref } from 'vue'

import { learns } from '@/hands/learn'
import { useFrames } from '@/page/useFrames'
import { giveBackKeys, PASS, useShortcuts, useShortcutState } from '@/page/useShortcuts'
import { barOf } from '@/sound/time'

const KEEPS = [1, 2, 4, 8] as const
const keeping = useKeeping()

// ---- Recording ahead ----
const AHEAD = [1, 2, 4, 8, 16, 32, 64] as const
const aheadBars = ref(8)
const countIn = ref(true)
/** How far the recording has come, as it is told on the button. */
const aheadSaid = ref('')

function tellAhead() {
  const recording = keeping.ahead
  if (!recording) {
    aheadSaid.value = ''
    return
  }
  const now = barOf(recording.stretch.nowTick, recording.stretch.barTicks)
  const done = now - recording.first
  aheadSaid.value = done < 0 ? 'from the next bar' : `bar ${done + 1} of ${recording.end - recording.first}`
}
useFrames(
  tellAhead,
  () => keeping.ahead !== null,
  () => keeping.ahead,
  30,
)

// ---- Keeping: K, then how many bars ----
const shortcuts = useShortcutState()
const isKeyOpen = computed({
  get: () => shortcuts.digitsMeanBars,
  set: (opens) => (shortcuts.digitsMeanBars = opens),
})
const { start: closeSoon } = useTimeoutFn(() => (isKeyOpen.value = false), 3000, { immediate: false })
function openKey() {
  giveBackKeys() // the digit that follows is how many bars, wherever the hand was
  isKeyOpen.value = true
  closeSoon()
}
function keepBy(bars: number) {
  if (!isKeyOpen.value) return PASS
  isKeyOpen.value = false
  return keep(bars)
}
async function keep(bars: number) {
  if (bars <= 8) keeping.bars = bars
  await keeping.keep(bars)
}

useShortcuts({
  'Shift+k': { says: 'Record the next bars, or cancel', act: () => keeping.recordAhead(aheadBars.value, countIn.value) },
  'k': { says: 'Keep: then 1, 2, 4 or 8 bars, 0 for 16', act: openKey },
  '1': { says: '', act: () => keepBy(1) },
  '2': { says: '', act: () => keepBy(2) },
  '4': { says: '', act: () => keepBy(4) },
  '8': { says: '', act: () => keepBy(8) },
  '0': { says: '', act: () => keepBy(16) },
}) // prettier-ignore
</script>

<template>
  <div class="keeping" :class="{ open: isKeyOpen }">
    <button
      v-tip="'Keep the last bars that sounded as a clip (K, then 1 2 4 8, or 0 for 16)'"
      type="button"
      class="keep named"
      data-hint="keep"
      v-bind="learns({ kind: 'act', act: 'keep' })"
      @click="keep(keeping.bars)"
    >
      {{ isKeyOpen ? 'Keep … bars?' : `Keep ${keeping.bars} ${keeping.bars === 1 ? 'bar' : 'bars'}` }}
    </button>
    <div class="counts" role="group" aria-label="Bars to keep">
      <button
        v-for="count in KEEPS"
        :key="count"
        type="button"
        :aria-pressed="count === keeping.bars"
        :aria-label="`Keep ${count} bars at a time`"
        @click="keeping.bars = count"
      >
        {{ count }}
      </button>
    </div>
  </div>
  <div class="keeping ahead" :class="{ on: keeping.ahead }">
    <button
      v-tip="'Keep the next bars, with all that you do meanwhile, from the next bar line on (Shift+K)'"
      type="button"
      class="record named"
      @click="keeping.recordAhead(aheadBars, countIn)"
    >
      {{ keeping.ahead ? 'Cancel' : `Record ${aheadBars} more` }}
    </button>
    <p v-if="keeping.ahead" class="how" role="status">{{ aheadSaid }}</p>
    <div v-else class="how">
      <select v-model="aheadBars" aria-label="Bars to record ahead">
        <option v-for="count in AHEAD" :key="count" :value="count">
          {{ count }} {{ count === 1 ? 'bar' : 'bars' }}
        </option>
      </select>
      <button
        v-tip="'A bar of clicks before, when it begins from a stop'"
        type="button"
        :aria-pressed="countIn"
        @click="countIn = !countIn"
      >
        {{ countIn ? 'count in' : 'no count' }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.keeping {
  flex: none;
  width: 150px;
  text-align: center;
}
.keep {
  width: 100%;
  height: 44px;
  border-radius: 22px;
  background: var(--keep);
  color: #2b2440;
  font-size: 17px;
  cursor: pointer;
}
.keep:hover {
  filter: brightness(1.08);
}
.record {
  width: 100%;
  height: 44px;
  border-radius: 22px;
  border: 2px solid var(--on-deck-soft);
  color: var(--on-deck);
  font-size: 16px;
  cursor: pointer;
}
.record:hover {
  border-color: var(--on-deck);
}
.on .record {
  border-color: var(--act);
  background: color-mix(in srgb, var(--act) 38%, transparent);
}
.how {
  display: flex;
  justify-content: center;
  gap: 8px;
  height: 28px;
  margin-top: 4px;
  align-items: center;
  font: 600 14px/1 var(--text-font);
  color: var(--on-deck-soft);
}
.how select {
  appearance: none;
  min-height: 28px;
  padding: 0 8px;
  border: 0;
  border-radius: 14px;
  background: color-mix(in srgb, var(--on-deck) 12%, transparent);
  color: inherit;
  font: inherit;
}
.how option {
  color: #2b2440;
}
.how button {
  min-height: 28px;
  cursor: pointer;
}
.how button[aria-pressed='true'] {
  color: var(--on-deck);
}
.open .keep {
  outline: 3px solid var(--on-deck);
}
.counts {
  display: flex;
  justify-content: center;
  gap: 4px;
  margin-top: 4px;
}
.counts button {
  min-width: 30px;
  height: 28px;
  border-radius: 14px;
  font: 600 14px/1 var(--text-font);
  color: var(--on-deck-soft);
  cursor: pointer;
}
.counts button:hover {
  color: var(--on-deck);
}
.counts button[aria-pressed='true'] {
  color: var(--keep);
  box-shadow: inset 0 0 0 1.5px var(--keep);
}
.keep:focus-visible,
.counts button:focus-visible {
  outline-color: var(--keep);
}
@media (pointer: coarse) {
  .counts button {
    min-height: 40px;
    min-width: 40px;
  }
}
/* A tablet held upright: what is recorded ahead stands below the tape. */
@media (max-width: 1000px) {
  .ahead {
    order: 2;
  }
  .keeping {
    width: 168px;
  }
  .keep,
  .record {
    font-size: 14px;
  }
}
</style>

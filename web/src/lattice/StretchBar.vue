<script setup lang="ts">
/** What can be done to the steps that are chosen. */
import { Burst, CycleRule, RatchetStrip } from '@/api/limits.json'
import { useHands } from '@/hands/useHands'
import { numberWord } from '@/sentence/number'
import NumberWord from '@/sentence/NumberWord.vue'

const { stretch, paste } = useHands()

const ACTS = [
  ['clear', 'Rests, with nothing of their own (Delete)'],
  ['repeat', 'The same again right after (R)'],
  ['throw', 'As many hits among the same steps, elsewhere (T)'],
  ['link', 'These hits sound together or not at all (L)'],
  ['unlink', 'Each hit for itself again'],
] as const
const { ratchetNotes, burstNotes, rule } = stretch
</script>

<template>
  <div class="stretch-bar" role="toolbar" aria-label="Chosen steps">
    <b>{{ stretch.says.value }}</b>
    <button
      v-tip="'Hits, values and letters (Ctrl+C)'"
      type="button"
      class="word-button"
      @click="stretch.copy"
    >
      copy
    </button>
    <button
      v-tip="'What was copied, from the first chosen step on (Ctrl+V)'"
      type="button"
      class="word-button"
      :disabled="!stretch.copied.value.length"
      @click="paste"
    >
      paste
    </button>
    <button
      v-for="[act, explains] in ACTS"
      :key="act"
      v-tip="explains"
      type="button"
      class="word-button"
      @click="stretch.act(act)"
    >
      {{ act }}
    </button>
    <span class="pair">
      <button
        v-tip="'Every hit of so many notes; 1 makes them plain (O)'"
        type="button"
        class="word-button"
        @click="stretch.act('ratchet')"
      >
        ratchet
      </button>
      <NumberWord
        :word="numberWord('notes of a ratchet', ratchetNotes, RatchetStrip.values)"
        owner="Chosen steps"
        explains="So many notes in each hit"
        @move="(value) => (ratchetNotes = Number(value))"
      />
    </span>
    <span class="pair">
      <button
        v-tip="'So many even notes in place of what the lane does there (U)'"
        type="button"
        class="word-button"
        @click="stretch.act('burst')"
      >
        burst
      </button>
      <NumberWord
        :word="numberWord('notes of a burst', burstNotes, Burst.notes)"
        owner="Chosen steps"
        explains="So many even notes"
        @move="(value) => (burstNotes = Number(value))"
      />
    </span>
    <span class="pair">
      <button
        v-tip="'These hits only in one of so many cycles; again: in every one'"
        type="button"
        class="word-button"
        @click="stretch.act('rule')"
      >
        cycle
      </button>
      <NumberWord
        :word="numberWord('cycle', rule.nth, { ...CycleRule.nth, max: rule.of })"
        owner="Chosen steps"
        explains="In which cycle they sound"
        @move="(value) => (rule = { ...rule, nth: Number(value) })"
      />
      of
      <NumberWord
        :word="
          numberWord('of cycles', rule.of, { ...CycleRule.of, min: Math.max(CycleRule.of.min, rule.nth) })
        "
        owner="Chosen steps"
        explains="Of how many cycles"
        @move="(value) => (rule = { ...rule, of: Number(value) })"
      />
    </span>
    <button
      v-tip="'Choose no steps (Escape)'"
      type="button"
      class="quiet-button"
      aria-label="Choose no steps"
      @click="stretch.drop"
    >
      done
    </button>
  </div>
</template>

<style scoped>
.stretch-bar {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 14px;
}
.stretch-bar b {
  margin-right: 4px;
  white-space: nowrap;
}
.word-button {
  min-height: 28px;
  padding: 2px 10px;
}
.pair {
  display: flex;
  gap: 4px;
  align-items: center;
}
</style>

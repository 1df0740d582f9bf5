<script setup lang="ts">
/** How far and which ways to look, between how many hits; when a point begins to sound. */
import { computed } from 'vue'

import { FieldQuestion } from '@/api/limits.json'
import type { FieldPicture, Around } from '@/engine/around'
import { useFieldSettings, COUNTS, WHEN } from './useFieldSettings'

const props = defineProps<{ field: FieldPicture | null; allWays: Around['ways'] }>()
const emit = defineEmits<{ again: [] }>()
const settings = useFieldSettings()
type Way = Around['ways'][number]['name']

/** As far as hits can be limited: twice what the start has, and at least a few. */
const top = computed(() => Math.max(16, Math.ceil(2 * (props.field?.start.hits_a_bar ?? 16))))
const has = (name: Way) => settings.ways?.includes(name) ?? true
function turn(name: Way) {
  const now = props.allWays.map((way) => way.name).filter(has)
  const next = now.includes(name) ? now.filter((one) => one !== name) : [...now, name]
  settings.ways = next.length === props.allWays.length ? null : next
}
const valueOf = (event: Event) => Number((event.target as HTMLInputElement).value)
function setLeast(event: Event) {
  const value = valueOf(event)
  settings.least = value > 0 ? value : null
  if (settings.most !== null && settings.most < value) settings.most = value
}
function setMost(event: Event) {
  const value = valueOf(event)
  settings.most = value < top.value ? value : null
  if (settings.least !== null && settings.least > value) settings.least = value
}
</script>

<template>
  <div class="settings">
    <label class="bound">
      <span
        >distance <b>{{ settings.distance }} %</b></span
      >
      <input
        v-model.number="settings.distance"
        type="range"
        class="slider"
        data-owns-keys
        v-bind="FieldQuestion.distance"
        aria-label="Distance in %"
      />
    </label>
    <label class="bound">
      <span
        >at least <b class="count">{{ settings.least ?? 0 }}</b> hits</span
      >
      <input
        type="range"
        class="slider"
        data-owns-keys
        min="0"
        :max="top"
        :value="settings.least ?? 0"
        aria-label="Least hits a bar"
        @input="setLeast"
      />
    </label>
    <label class="bound">
      <span
        >at most <b>{{ settings.most ?? 'any' }}</b></span
      >
      <input
        type="range"
        class="slider"
        data-owns-keys
        min="1"
        :max="top"
        :value="settings.most ?? top"
        aria-label="Most hits a bar"
        @input="setMost"
      />
    </label>
    <div class="row" role="group" aria-label="Ways">
      <span class="soft">ways</span>
      <button
        v-for="way in allWays"
        :key="way.name"
        v-tip="way.explains"
        type="button"
        class="choice"
        :aria-pressed="has(way.name)"
        @click="turn(way.name)"
      >
        {{ way.name }}
      </button>
    </div>
    <div class="row">
      <button type="button" class="word-button strong" @click="emit('again')">Throw again</button>
      <span class="group" role="group" aria-label="How many patterns">
        <button
          v-for="count in COUNTS"
          :key="count"
          type="button"
          class="choice"
          :aria-pressed="settings.count === count"
          @click="settings.count = count"
        >
          {{ count.toLocaleString('en') }}
        </button>
        <span class="soft">patterns</span>
      </span>
      <span class="group" role="group" aria-label="Axes">
        <button
          v-tip="'Across: from on the beat to syncopated. Up: hits a bar'"
          type="button"
          class="choice"
          :aria-pressed="settings.axes === 'beat'"
          @click="settings.axes = 'beat'"
        >
          beat
        </button>
        <button
          v-tip="'Across: from uneven to even. Up: how far from the start'"
          type="button"
          class="choice"
          :aria-pressed="settings.axes === 'shape'"
          @click="settings.axes = 'shape'"
        >
          shape
        </button>
      </span>
      <span class="group" role="group" aria-label="When a point begins to sound">
        <span class="soft">heard from the next</span>
        <button
          v-for="[at, said] in WHEN"
          :key="at"
          type="button"
          class="choice"
          :aria-pressed="settings.at === at"
          @click="settings.at = at"
        >
          {{ said }}
        </button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: repeat(3, auto);
  gap: 6px 18px;
  font-size: 14px;
}
.bound {
  display: flex;
  align-items: center;
  gap: 8px;
  white-space: nowrap;
}
.bound .slider {
  flex: 1;
  min-width: 60px;
}
.bound span {
  color: var(--soft-ink);
}
.bound b {
  color: var(--ink);
}
.row {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 6px;
}
.group {
  display: flex;
  align-items: center;
  gap: 2px;
  margin-left: 8px;
}
.soft {
  color: var(--soft-ink);
  margin: 0 4px;
}
.choice {
  min-height: 28px;
  padding: 0 9px;
  border-radius: 14px;
  color: var(--soft-ink);
  font: 500 14px/1 var(--text-font);
  cursor: pointer;
}
.choice:hover {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.choice[aria-pressed='true'] {
  background: color-mix(in srgb, var(--ink) 10%, transparent);
  color: var(--ink);
  font-weight: 700;
  box-shadow: inset 0 -2px 0 var(--ink);
}
@media (pointer: coarse) {
  .choice {
    min-height: 40px;
  }
}
</style>

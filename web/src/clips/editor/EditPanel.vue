<script setup lang="ts">
/** What can be done to the chosen notes, or with none chosen to all of them. */
import { computed, reactive } from 'vue'

import {
  Humanised,
  Lengthen,
  Quantise,
  Ramp,
  Repeat,
  Scatter,
  SetNotes,
  Swing,
  Transpose,
} from '@/api/limits.json'
import type { Action } from '@/api/clips'
import type { Schemas } from '@/api/client'
import { newThrow } from '@/work/document'
import { chosenNotes } from './copied'
import { placeRead, placeSaid } from '@/sound/time'

const props = defineProps<{
  clip: Schemas['Clip']
  chosen: readonly (readonly number[])[]
  step: Required<Schemas['StepValue']>
  bars: number
  /** How a pitch is called. */
  nameOf: (pitch: number) => string
}>()
const emit = defineEmits<{ act: [action: Action] }>()

const notes = computed(() => chosenNotes(props.clip, props.chosen))
const count = computed(() => notes.value.length)
const told = computed(() => {
  if (!count.value) return 'All notes'
  return count.value === 1 ? '1 note chosen' : `${count.value} notes chosen`
})
/** The one value that all chosen notes have at a place; '' where they differ. */
const common = (at: 2 | 3 | 4) => {
  const values = new Set(notes.value.map((note) => note[at]))
  return values.size === 1 ? ([...values][0] ?? '') : ''
}
const start = computed(() =>
  count.value ? placeSaid(Math.min(...notes.value.map(([, at]) => at)), props.clip.meter) : '',
)
const pitch = computed(() => common(3))
function setStart(event: Event) {
  const field = event.target as HTMLInputElement
  const read = placeRead(field.value, props.clip.meter)
  if (read === null) field.value = start.value
  else emit('act', { kind: 'set', start: read })
}
function setExact(field: 'length' | 'pitch' | 'velocity', event: Event) {
  const { value } = event.target as HTMLInputElement
  if (value !== '' && Number.isInteger(Number(value))) emit('act', { kind: 'set', [field]: Number(value) })
}

const how = reactive({
  quantise: 100, swing: 58, swingNote: 16 as 8 | 16, humanise: 40, scatter: 30, rampFrom: 60, rampTo: 110, semitones: 12, times: 1,
}) // prettier-ignore
const throwNumber = newThrow
const swing = (out: boolean) =>
  emit('act', { kind: 'swing', swing: { percent: how.swing, note: how.swingNote }, out })
function setBars(event: Event) {
  const bars = Math.round(Number((event.target as HTMLInputElement).value))
  if (bars > 0) emit('act', { kind: 'lengthen', bars })
}
</script>

<template>
  <aside class="panel" aria-label="What can be done">
    <h2 class="told">
      <span role="status">{{ told }}</span>
    </h2>
    <div v-if="count" class="exact">
      <label
        >at <input v-shown="start" class="small-field" aria-label="Start: bar, beat, tick" @change="setStart"
      /></label>
      <label
        >length
        <input
          v-shown="common(2)"
          class="small-field"
          type="number"
          min="1"
          aria-label="Length in ticks"
          @change="setExact('length', $event)"
      /></label>
      <label
        >pitch
        <input
          v-shown="pitch"
          class="small-field"
          type="number"
          v-bind="SetNotes.pitch"
          aria-label="Pitch"
          @change="setExact('pitch', $event)"
        />
        <small>{{ pitch === '' ? '' : nameOf(pitch) }}</small></label
      >
      <label
        >velocity
        <input
          v-shown="common(4)"
          class="small-field"
          type="number"
          v-bind="SetNotes.velocity"
          aria-label="Velocity"
          @change="setExact('velocity', $event)"
      /></label>
    </div>
    <p v-else class="soft">
      Double-click adds a note. Drag a box around notes to choose them; a name at the left chooses its lane.
    </p>

    <h2>Time</h2>
    <p>
      <button
        type="button"
        class="word-button"
        @click="emit('act', { kind: 'quantise', percent: how.quantise, step })"
      >
        Quantise
      </button>
      <input
        v-model.number="how.quantise"
        class="small-field"
        type="number"
        v-bind="Quantise.percent"
        aria-label="Quantise by %"
      />
      %
    </p>
    <p>
      <button type="button" class="word-button" @click="swing(false)">Swing</button>
      <input
        v-model.number="how.swing"
        class="small-field"
        type="number"
        v-bind="Swing.percent"
        aria-label="Swing %"
      />
      <select v-model="how.swingNote" class="small-field" aria-label="Swing of">
        <option :value="8">1/8</option>
        <option :value="16">1/16</option>
      </select>
      <button type="button" class="word-button" @click="swing(true)">straighten</button>
    </p>
    <p>
      <button
        type="button"
        class="word-button"
        @click="emit('act', { kind: 'humanise', percent: how.humanise, throw: throwNumber() })"
      >
        Humanise
      </button>
      <input
        v-model.number="how.humanise"
        class="small-field"
        type="number"
        v-bind="Humanised.percent"
        aria-label="Humanise by %"
      />
      %
    </p>
    <p>
      <button
        v-tip="'So many of the notes move to other steps of the same span: a quick fill'"
        type="button"
        class="word-button"
        @click="emit('act', { kind: 'scatter', percent: how.scatter, throw: throwNumber(), step })"
      >
        Scatter
      </button>
      <input
        v-model.number="how.scatter"
        class="small-field"
        type="number"
        v-bind="Scatter.percent"
        aria-label="Scatter %"
      />
      %
    </p>

    <h2>Velocity and pitch</h2>
    <p>
      <button
        type="button"
        class="word-button"
        @click="emit('act', { kind: 'ramp', first: how.rampFrom, last: how.rampTo })"
      >
        Ramp
      </button>
      <input
        v-model.number="how.rampFrom"
        class="small-field"
        type="number"
        v-bind="Ramp.first"
        aria-label="Ramp from"
      />
      to
      <input
        v-model.number="how.rampTo"
        class="small-field"
        type="number"
        v-bind="Ramp.last"
        aria-label="Ramp to"
      />
    </p>
    <p>
      <button type="button" class="word-button" @click="emit('act', { kind: 'harder', by: -8 })">
        softer
      </button>
      <button type="button" class="word-button" @click="emit('act', { kind: 'harder', by: 8 })">
        harder
      </button>
    </p>
    <p>
      <button
        type="button"
        class="word-button"
        @click="emit('act', { kind: 'transpose', semitones: how.semitones })"
      >
        Transpose
      </button>
      <input
        v-model.number="how.semitones"
        class="small-field"
        type="number"
        v-bind="Transpose.semitones"
        aria-label="Semitones"
      />
    </p>

    <h2>Shape</h2>
    <p>
      <button
        type="button"
        class="word-button"
        @click="emit('act', { kind: 'repeat', times: how.times, step })"
      >
        Repeat
      </button>
      <input
        v-model.number="how.times"
        class="small-field"
        type="number"
        v-bind="Repeat.times"
        aria-label="Times"
      />
      ×
    </p>
    <p>
      <button type="button" class="word-button" @click="emit('act', { kind: 'pace', pace: 'half' })">
        Half pace
      </button>
      <button type="button" class="word-button" @click="emit('act', { kind: 'pace', pace: 'double' })">
        Double
      </button>
    </p>
    <p>
      <button
        v-tip="'To the bars in which chosen notes begin'"
        type="button"
        class="word-button"
        :disabled="!count"
        @click="emit('act', { kind: 'crop' })"
      >
        Crop
      </button>
      <input
        v-shown="bars"
        class="small-field"
        type="number"
        v-bind="Lengthen.bars"
        aria-label="Bars of the clip"
        @change="setBars"
      />
      bars long
    </p>
    <slot />
  </aside>
</template>

<style scoped>
.panel {
  overflow-y: auto;
  padding: 12px 16px 24px;
  border-left: 1.5px solid var(--rule);
  display: grid;
  align-content: start;
  gap: 7px;
  font-size: 14px;
}
.told {
  font-size: 18px;
}
h2 {
  margin: 8px 0 0;
  font: 600 14px/1.2 var(--text-font);
  color: var(--soft-ink);
}
p {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.exact {
  display: grid;
  gap: 5px;
}
.exact label {
  display: grid;
  grid-template-columns: 62px 100px 1fr;
  gap: 6px;
  align-items: center;
}
.soft {
  display: block;
  color: var(--soft-ink);
  line-height: 19px;
}
.small-field[type='number'] {
  width: 56px;
}
.word-button {
  padding: 4px 10px;
}
.exact .small-field,
.exact .small-field[type='number'] {
  width: 100px;
}
</style>

<script setup lang="ts">
/** One chord: what is written, how it is turned over, how long it lasts. */
import { ref } from 'vue'

import type { Schemas } from '@/api/client'
import type { PlacedChord } from './lengths'

const props = defineProps<{
  chord: PlacedChord
  picture: Schemas['ChordPicture']
  scaleChords: readonly string[]
}>()
const emit = defineEmits<{
  write: [fields: Partial<PlacedChord>, label: string]
  longer: [by: number]
  add: []
  remove: []
  close: []
}>()

const text = ref(props.chord.chord)
function take() {
  const typedText = text.value.trim()
  if (typedText && typedText !== props.chord.chord)
    emit('write', { chord: typedText }, `${props.chord.chord} → ${typedText}`)
}
</script>

<template>
  <div role="dialog" aria-label="Chord">
    <form class="card chord-card" @submit.prevent="(take(), emit('close'))">
      <label class="text">
        Chord
        <input
          v-model="text"
          maxlength="12"
          autofocus
          aria-label="Chord"
          @blur="take"
          @keydown.stop
          @keydown.escape="emit('close')"
        />
      </label>
      <p>A name, as Dm7 or B♭sus4, or a numeral in the scale, as iv or V7. Now {{ picture.notes }}.</p>
      <div class="row" role="group" aria-label="Chords of the scale">
        <button
          v-for="one in scaleChords"
          :key="one"
          type="button"
          class="pill"
          :aria-pressed="chord.chord === one"
          @click="((text = one), take())"
        >
          {{ one }}
        </button>
      </div>
      <div class="row" role="group" aria-label="Inversion">
        <button
          v-for="(says, inversion) in picture.inversions"
          :key="says"
          type="button"
          class="pill"
          :aria-pressed="chord.inversion === inversion"
          @click="emit('write', { inversion }, `${chord.chord} ${says}`)"
        >
          {{ says }}
        </button>
      </div>
      <div class="row">
        <button type="button" class="pill" aria-label="A beat shorter" @click="emit('longer', -1)">−</button>
        <span>lasts {{ picture.lasts }}</span>
        <button type="button" class="pill" aria-label="A beat longer" @click="emit('longer', 1)">+</button>
        <button type="button" class="word-button" @click="emit('add')">+ chord after it</button>
        <button type="button" class="word-button" @click="emit('remove')">Remove</button>
      </div>
    </form>
  </div>
</template>

<style scoped>
.chord-card {
  width: 430px;
  padding: 14px;
  display: grid;
  gap: 10px;
  font-size: 14px;
  color: var(--soft-ink);
}
.text {
  display: grid;
  gap: 4px;
  font-size: 13px;
}
.text input {
  height: 42px;
  padding: 0 12px;
  border: 1.5px solid var(--ink);
  border-radius: 9px;
  font: 650 22px/1 var(--name-font);
  color: var(--ink);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
}
</style>

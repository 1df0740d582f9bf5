<script setup lang="ts">
/** What a lane is called, how it sounds, its ink; and copying or removing it. */
import { ref, useTemplateRef } from 'vue'

import type { Lane, Schemas } from '@/api/client'
import { melody } from '@/engine/melody'
import { useOffer } from '@/page/useLists'
import { inkOf, inks } from '@/theme/inks'

/** `isNew`: its voice is to be chosen first. */
const props = defineProps<{ lane: Lane; voices: readonly Schemas['Voice'][]; isNew: boolean }>()
const emit = defineEmits<{
  change: [label: string, fields: Partial<Lane>]
  listen: [voice: Schemas['Voice']]
  /** A voice that plays any pitch is to be heard, at the note it sounds best at. */
  sing: [voice: Schemas['VoiceLine']]
  copy: []
  remove: []
}>()

const name = ref(props.lane.name)

function takeName() {
  const typedName = name.value.trim()
  if (typedName && typedName !== props.lane.name) emit('change', `renamed ${typedName}`, { name: typedName })
  else name.value = props.lane.name
}

/** The voices that play any pitch. */
const pitched = useOffer(['voices'], melody.voices)
const card = useTemplateRef<HTMLElement>('card')
/** Once it is seen. */
const begin = () => {
  if (props.isNew) card.value?.querySelector<HTMLElement>('.voice[aria-pressed=true]')?.focus()
}
defineExpose({ begin })

function takePitched(voice: Schemas['VoiceLine']) {
  emit('sing', voice)
  turnTo(voice)
}
function takeVoice(voice: Schemas['Voice']) {
  emit('listen', voice)
  turnTo(voice)
}
function turnTo(voice: { id: string; name: string }) {
  if (voice.id === props.lane.voice) return
  // A lane that is called after its voice goes on being called so.
  const was = [...props.voices, ...(pitched.value ?? [])].find(({ id }) => id === props.lane.voice)?.name
  const isNamedAfterVoice = props.lane.name === was
  if (isNamedAfterVoice) name.value = voice.name
  emit('change', `voice ${voice.name}`, { voice: voice.id, ...(isNamedAfterVoice && { name: voice.name }) })
}
</script>

<template>
  <div ref="card" class="card lane-card" role="dialog" :aria-label="`Name, voice and ink of ${lane.name}`">
    <v-text-field
      v-model="name"
      label="Name of the lane"
      maxlength="80"
      :autofocus="!isNew"
      @blur="takeName"
      @keydown.enter="takeName"
    />
    <fieldset>
      <legend>Plays any pitch</legend>
      <button
        v-for="voice in pitched"
        :key="voice.id"
        v-tip="voice.explains"
        type="button"
        class="voice"
        :aria-pressed="voice.id === lane.voice"
        @click="takePitched(voice)"
      >
        {{ voice.name }}
      </button>
    </fieldset>
    <fieldset>
      <legend>Voice of the kit</legend>
      <button
        v-for="voice in voices"
        :key="voice.id"
        type="button"
        class="voice"
        :aria-pressed="voice.id === lane.voice"
        @click="takeVoice(voice)"
      >
        {{ voice.name }} <small>{{ voice.pitch }}</small>
      </button>
    </fieldset>
    <fieldset class="inks">
      <legend>Ink</legend>
      <button
        v-for="(ink, at) in inks"
        :key="ink"
        type="button"
        class="ink"
        :style="{ background: inkOf(at) }"
        :aria-label="`Ink ${at + 1}`"
        :aria-pressed="at === lane.ink"
        @click="emit('change', `ink ${at + 1}`, { ink: at })"
      />
    </fieldset>
    <div class="ends">
      <button type="button" class="word-button" @click="emit('copy')">Copy lane</button>
      <button type="button" class="word-button" @click="emit('remove')">Remove lane</button>
    </div>
  </div>
</template>

<style scoped>
.lane-card {
  width: 440px;
  max-height: 86vh;
  overflow-y: auto;
  padding: 16px;
  display: grid;
  gap: 14px;
}
fieldset {
  border: 0;
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
}
legend {
  padding-bottom: 4px;
  font-size: 13px;
  color: var(--soft-ink);
}
.voice {
  min-height: 34px;
  border-radius: 8px;
  border: 1.5px solid var(--rule);
  font: 600 14px/1 var(--text-font);
  cursor: pointer;
}
.voice small {
  font-weight: 400;
  color: var(--soft-ink);
}
.voice:hover {
  border-color: var(--ink);
}
.voice[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.voice[aria-pressed='true'] small {
  color: inherit;
}
.inks {
  grid-template-columns: repeat(8, 1fr);
}
.ink {
  height: 28px;
  border-radius: 14px;
  cursor: pointer;
}
.ink[aria-pressed='true'] {
  outline: 2.5px solid var(--ink);
  outline-offset: 2px;
}
.ends {
  display: flex;
  gap: 8px;
}
</style>

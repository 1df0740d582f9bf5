<script setup lang="ts">
/** MIDI files that were dropped or chosen: how they are to be read. */
import { reactive, ref } from 'vue'

import { clipsApi, type Import } from '@/api/clips'
import type { ClipLine } from '@/api/client'
import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'

const props = defineProps<{ files: readonly File[] }>()
const emit = defineEmits<{ done: [clips: ClipLine[]]; close: [] }>()
const notices = useNotices()
const how = reactive<Import>({ split: 'track', changes: 'keep', each: false })
const reading = ref('')
const asking = useNewest()

async function read() {
  const made: ClipLine[] = []
  for (const file of props.files) {
    reading.value = file.name
    try {
      const read = await asking.ask((signal) => clipsApi.import(file, how, signal))
      if (!read) break // what was read before stays
      made.push(...read.clips)
      if (read.heard) notices.say(`${file.name} is ${read.heard}.`)
      if (read.remarks.length) notices.say(`${file.name}: ${read.remarks.join('; ')}.`)
    } catch (reason) {
      notices.complain(`${file.name}: ${reason instanceof Error ? reason.message : String(reason)}`)
    }
  }
  reading.value = ''
  if (made.length) notices.say(`Imported ${made.length} ${made.length === 1 ? 'clip' : 'clips'}.`)
  emit('done', made)
}
</script>

<template>
  <div class="card import" role="dialog" aria-label="Import MIDI files">
    <p>
      <b>{{ files.map(({ name }) => name).join(', ') }}</b>
    </p>
    <label>
      a track for each
      <select v-model="how.split" class="small-field" aria-label="A track for each">
        <option value="track">track of the file</option>
        <option value="channel">channel</option>
        <option value="note">note number</option>
      </select>
    </label>
    <label>
      changes of tempo and meter
      <select v-model="how.changes" class="small-field" aria-label="Changes of tempo and meter">
        <option value="keep">kept</option>
        <option value="flatten">flattened: the first holds</option>
      </select>
    </label>
    <label class="check"><input v-model="how.each" type="checkbox" /> each track a clip of its own</label>
    <p class="acts">
      <button type="button" class="word-button strong" :disabled="reading !== ''" @click="read">
        {{ reading ? `Reading ${reading} …` : 'Import' }}
      </button>
      <button type="button" class="quiet-button" @click="reading ? asking.cancel() : emit('close')">
        Cancel
      </button>
    </p>
  </div>
</template>

<style scoped>
.import {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  align-items: center;
  padding: 14px 18px;
}
.import > p:first-child {
  flex-basis: 100%;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.check input {
  appearance: auto;
  width: 18px;
  height: 18px;
  accent-color: var(--act-text);
}
.acts {
  margin-left: auto;
  display: flex;
  gap: 8px;
}
</style>

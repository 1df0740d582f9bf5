<script setup lang="ts">
/** Sounds that were dropped: heard, cut to size, then a kit with a lane each, or voices of the kit that is there. */
import { computed, ref } from 'vue'
import { useTrying } from '@/playing/useTrying'

import type { Voice } from '@/api/library'
import { useNotices } from '@/page/notices'
import { useRovingRows } from '@/page/useRovingRows'
import { useSoundFiles } from './useSoundFiles'
import VoiceCells from './VoiceCells.vue'
import { CUTS } from './voiceNumbers'

const dropped = defineModel<readonly Voice[]>({ required: true })
const trying = useTrying()
const notices = useNotices()
const soundFiles = useSoundFiles()
const isBusy = ref(false)

const rows = useRovingRows(() => dropped.value.map(({ id }) => id))
const lanes = computed(() => (dropped.value.length === 1 ? 'one lane' : `${dropped.value.length} lanes`))
function change(voice: Voice, fields: Partial<Voice>) {
  dropped.value = dropped.value.map((one) => (one === voice ? { ...one, ...fields } : one))
}
/** They stay here until it is done: what is refused can be tried otherwise. */
async function use(act: (voices: readonly Voice[]) => Promise<void>) {
  const used = dropped.value
  isBusy.value = true
  try {
    await act(used)
    dropped.value = dropped.value.filter((one) => !used.includes(one))
  } catch (reason) {
    notices.complain(reason)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <v-dialog
    aria-label="Dropped sounds"
    :model-value="dropped.length > 0"
    width="720"
    @update:model-value="(opens: boolean) => !opens && (dropped = [])"
  >
    <section class="card dropped" aria-label="Dropped sounds">
      <h2>{{ dropped.length === 1 ? 'A sound of your own' : `${dropped.length} sounds of your own` }}</h2>
      <div class="table">
        <table>
          <thead>
            <tr>
              <th>sound</th>
              <th v-for="[field, name] in CUTS" :key="field">{{ name }}</th>
              <th>played</th>
              <th />
            </tr>
          </thead>
          <tbody v-bind="rows.on">
            <tr v-for="voice in dropped" :key="voice.id" :data-row="voice.id">
              <td>
                <button
                  type="button"
                  class="word-button"
                  :tabindex="rows.stopOf(voice.id)"
                  @click="trying.tryVoice(voice)"
                >
                  {{ voice.name }}
                </button>
              </td>
              <VoiceCells
                :voice="voice"
                :numbers="CUTS"
                :is-stop="rows.isStop(voice.id)"
                @change="(_label, fields) => change(voice, fields)"
              />
              <td>
                <button
                  type="button"
                  class="quiet-button"
                  :tabindex="rows.stopOf(voice.id)"
                  :aria-label="`Leave ${voice.name} out`"
                  @click="dropped = dropped.filter((one) => one !== voice)"
                >
                  leave out
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <footer>
        <button type="button" class="word-button strong" :disabled="isBusy" @click="use(soundFiles.makeKit)">
          A kit of them, {{ lanes }}
        </button>
        <button type="button" class="word-button" :disabled="isBusy" @click="use(soundFiles.addToKit)">
          Add them to the kit
        </button>
        <button type="button" class="quiet-button" @click="dropped = []">Cancel</button>
      </footer>
    </section>
  </v-dialog>
</template>

<style scoped>
.dropped {
  padding: 16px 18px;
  display: grid;
  gap: 12px;
}
.table {
  max-height: 420px;
  overflow-y: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  padding: 2px 8px;
  text-align: left;
  font: 500 13px/1.3 var(--text-font);
  color: var(--soft-ink);
}
td {
  padding: 3px 8px;
  white-space: nowrap;
}
footer {
  display: flex;
  align-items: center;
  gap: 10px;
}
</style>

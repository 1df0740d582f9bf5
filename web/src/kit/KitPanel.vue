<script setup lang="ts">
/** The kit: which voices there are, the notes they answer to, what they sound like; other kits, and sounds of one's own. */
import { computed, ref } from 'vue'

import type { Voice } from '@/api/library'
import { useFocusBackFrom } from '@/page/useFocusBack'
import { useRovingRows } from '@/page/useRovingRows'
import { useShortcuts } from '@/page/useShortcuts'
import { Kit as KitLimits } from '@/api/limits.json'
import { numberWord } from '@/sentence/number'
import { useKit } from './useKit'
import VoiceCells from './VoiceCells.vue'
import { NUMBERS } from './voiceNumbers'
import NumberWord from '@/sentence/NumberWord.vue'
import { builtInSounds } from '@/sound/names'
import { usePiece } from '@/work/piece'
import { useTrying } from '@/playing/useTrying'

const piece = usePiece()
const trying = useTrying()
const isOpen = ref(false)
const { kit, kits, sounds, inUse, isBusy, change, changeVoice, removeVoice, changeSound, exchange, addFiles, keepKit, forgetKit } = useKit(isOpen) // prettier-ignore

function rename(voice: Voice, event: Event) {
  const field = event.target as HTMLInputElement
  const name = field.value.trim()
  if (name && name !== voice.name) changeVoice(voice, `renamed ${name}`, { name })
  else field.value = voice.name
}
const chooser = ref<HTMLInputElement>()
function addChosen() {
  void addFiles([...(chooser.value?.files ?? [])])
  if (chooser.value) chooser.value.value = ''
}
const kitName = ref('')
async function keepNamed() {
  const name = kitName.value.trim()
  if (name && (await keepKit(name)) && kitName.value.trim() === name) kitName.value = ''
}
const channelWord = computed(() =>
  numberWord('channel', kit.value?.channel ?? 10, KitLimits.channel, 'channel'),
)
useFocusBackFrom(isOpen)
const rows = useRovingRows(() => kit.value?.voices.map(({ id }) => id) ?? [])
useShortcuts({ v: { says: 'Kit and voices', act: () => (isOpen.value = !isOpen.value) } })
</script>

<template>
  <button
    v-tip="isOpen ? '' : 'Kit, voices and their notes (V)'"
    type="button"
    class="word-button of-kit"
    aria-haspopup="dialog"
  >
    <span class="its-name">{{ kit?.name ?? 'Kit' }}</span>
    <v-menu v-model="isOpen" activator="parent" location="top" :close-on-content-click="false">
      <section v-if="kit" class="card kit" aria-label="Kit" :aria-busy="isBusy">
        <header>
          <div class="kits" role="group" aria-label="Kits">
            <span v-for="one in kits" :key="one.id ?? one.kit.name" class="one-kit">
              <button
                v-tip="'Play the piece with this kit: lanes keep their places'"
                type="button"
                class="word-button"
                :aria-pressed="one.kit.name === kit.name"
                @click="exchange(one)"
              >
                {{ one.kit.name }}
              </button>
              <button
                v-if="one.id !== null"
                type="button"
                class="quiet-button"
                :aria-label="`Delete the kit ${one.kit.name}`"
                @click="forgetKit(one)"
              >
                delete
              </button>
            </span>
          </div>
          <span class="channel"
            >channel
            <NumberWord
              :word="channelWord"
              owner="Kit"
              explains="The MIDI channel of all its voices"
              @move="(value, gesture) => change(`channel ${value}`, { channel: Number(value) }, gesture)"
          /></span>
        </header>
        <div class="table">
          <table>
            <thead>
              <tr>
                <th>voice</th>
                <th>sound</th>
                <th v-for="[field, name] in NUMBERS" :key="field">{{ name }}</th>
                <th>played</th>
                <th><span class="visually-hidden">remove</span></th>
              </tr>
            </thead>
            <tbody v-bind="rows.on">
              <tr v-for="voice in kit.voices" :key="voice.id" :data-row="voice.id">
                <td>
                  <button
                    type="button"
                    class="hear"
                    :tabindex="rows.stopOf(voice.id)"
                    :aria-label="`Hear ${voice.name}`"
                    @click="trying.tryVoice(voice)"
                  >
                    <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
                      <circle cx="6" cy="6" r="5" fill="currentColor" />
                    </svg>
                  </button>
                  <input
                    v-shown="voice.name"
                    maxlength="80"
                    :tabindex="rows.stopOf(voice.id)"
                    :aria-label="`Name of ${voice.name}`"
                    @change="rename(voice, $event)"
                  />
                </td>
                <td>
                  <select
                    :value="voice.sound ?? voice.id"
                    :tabindex="rows.stopOf(voice.id)"
                    :aria-label="`Sound of ${voice.name}`"
                    @change="changeSound(voice, ($event.target as HTMLSelectElement).value)"
                  >
                    <optgroup label="built in">
                      <option v-for="sound in builtInSounds" :key="sound" :value="sound">{{ sound }}</option>
                    </optgroup>
                    <optgroup v-if="sounds.length" label="your own">
                      <option v-for="sound in sounds" :key="sound.id" :value="sound.sound">
                        {{ sound.name }}
                      </option>
                    </optgroup>
                    <option
                      v-if="
                        voice.sound?.startsWith('own-') && !sounds.some(({ sound }) => sound === voice.sound)
                      "
                      :value="voice.sound"
                    >
                      not here: a stand-in
                    </option>
                  </select>
                </td>
                <VoiceCells
                  :voice="voice"
                  :numbers="NUMBERS"
                  :is-stop="rows.isStop(voice.id)"
                  @change="(label, fields, gesture) => changeVoice(voice, label, fields, gesture)"
                  @cancel="piece.takeBack"
                />
                <td>
                  <button
                    v-if="!inUse.has(voice.id) && kit.voices.length > 1"
                    type="button"
                    class="quiet-button"
                    :tabindex="rows.stopOf(voice.id)"
                    :aria-label="`Remove ${voice.name} from the kit`"
                    @click="removeVoice(voice)"
                  >
                    remove
                  </button>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
        <footer>
          <button
            v-tip="'A WAV, OGG or FLAC file of up to 10 seconds and 4 MB'"
            type="button"
            class="word-button"
            :disabled="isBusy"
            @click="chooser?.click()"
          >
            + a sound of your own
          </button>
          <input
            ref="chooser"
            type="file"
            accept=".wav,.ogg,.flac,audio/*"
            multiple
            hidden
            aria-label="Sound files"
            @change="addChosen"
          />
          <form class="keep" @submit.prevent="keepNamed">
            <input
              v-model="kitName"
              maxlength="80"
              :placeholder="`keep as … (${kit.name})`"
              aria-label="Name of your kit"
            />
            <button type="submit" class="word-button" :disabled="!kitName.trim() || isBusy">keep kit</button>
          </form>
        </footer>
      </section>
    </v-menu>
  </button>
</template>

<style scoped>
.its-name {
  display: inline-block;
  max-width: 66px;
  overflow: hidden;
  text-overflow: ellipsis;
  vertical-align: bottom;
}
.kit {
  width: min(1080px, 96vw);
  padding: 14px;
  display: grid;
  gap: 10px;
}
header,
footer,
.keep,
.kits,
.one-kit {
  display: flex;
  align-items: center;
  gap: 8px;
}
header,
footer {
  justify-content: space-between;
}
.kits {
  flex-wrap: wrap;
}
.kits [aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--paper);
}
.channel {
  font-size: 14px;
  color: var(--soft-ink);
  white-space: nowrap;
}
.table {
  max-height: 420px;
  overflow-y: auto;
  border-block: 1.5px solid var(--rule);
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 15px;
}
th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--card);
  padding: 4px 6px;
  text-align: left;
  font: 500 13px/1.3 var(--text-font);
  color: var(--soft-ink);
}
td {
  padding: 1px 6px;
  height: 32px;
  white-space: nowrap;
}
tr + tr :deep(td) {
  border-top: 1px solid color-mix(in srgb, var(--rule) 60%, transparent);
}
.hear {
  width: 28px;
  height: 28px;
  border-radius: 14px;
  color: var(--act-text);
  cursor: pointer;
  vertical-align: middle;
}
.hear:hover {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
td input {
  width: 110px;
  height: 28px;
  padding: 0 4px;
  font: 650 15px/1 var(--name-font);
  border-radius: 6px;
}
td input:hover,
td input:focus {
  background: color-mix(in srgb, var(--rule) 40%, transparent);
}
select {
  height: 28px;
  max-width: 150px;
  padding: 0 6px;
  border: 1.5px solid var(--rule);
  border-radius: 8px;
  background: var(--card);
  color: var(--ink);
  font: 500 14px/1 var(--text-font);
}
.keep input {
  width: 210px;
  height: 34px;
  padding: 0 10px;
  border: 1.5px solid var(--rule);
  border-radius: 10px;
  color: var(--ink);
}
</style>

<script setup lang="ts">
/** The kit: which voices there are, the notes they answer to, what they sound like; other kits, and sounds of one's own. */
import { computed, ref } from 'vue'

import { library, type Kit, type ListedKit, type Voice } from '@/api/library'
import { useFocusBackFrom } from '@/page/useFocusBack'
import { useRovingRows } from '@/page/useRovingRows'
import { useShortcuts } from '@/page/useShortcuts'
import { Kit as KitLimits } from '@/api/limits.json'
import { numberWord } from '@/sentence/number'
import VoiceCells from './VoiceCells.vue'
import { NUMBERS } from './voiceNumbers'
import NumberWord from '@/sentence/NumberWord.vue'
import { builtInSounds } from '@/sound/names'
import { useSoundFiles } from './useSoundFiles'
import { useList } from '@/page/useLists'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { useTrying } from '@/playing/useTrying'

const piece = usePiece()
const trying = useTrying()
const notices = useNotices()
const soundFiles = useSoundFiles()
const isOpen = ref(false)
const { lines: kits, again: readKits } = useList(['kits'], library.kits, isOpen)
const { lines: sounds, again: readSounds } = useList(['sounds'], library.sounds, isOpen)
const isBusy = ref(false)

const kit = computed<Kit | null>(() => piece.document?.kit ?? null)
/** Voices that lanes of the piece play: these stay in the kit. */
const inUse = computed(() => new Set(piece.patterns.flatMap(({ lanes }) => lanes.map(({ voice }) => voice))))

async function told(act: () => Promise<unknown>) {
  isBusy.value = true
  try {
    await act()
  } catch (reason) {
    notices.complain(reason)
  } finally {
    isBusy.value = false
  }
}

function change(label: string, fields: Partial<Kit>, gesture: string | null = null) {
  piece.edit(`Kit: ${label}`, (document) => ({ ...document, kit: { ...document.kit, ...fields } }), gesture)
}
function changeVoice(voice: Voice, label: string, fields: Partial<Voice>, gesture: string | null = null) {
  const voices = kit.value?.voices.map((one) => (one.id === voice.id ? { ...one, ...fields } : one)) ?? []
  change(`${voice.name} ${label}`, { voices }, gesture)
}

/** Exchange the kit: lanes keep their places. */
const exchange = ({ kit: other }: ListedKit) =>
  told(() => piece.editAsAnswered(`Kit: ${other.name}`, (document) => library.exchangeKit(document, other)))

function takeSound(voice: Voice, event: Event) {
  const sound = (event.target as HTMLSelectElement).value
  const changed = { ...voice, sound: sound === voice.id ? null : sound }
  changeVoice(voice, 'sound', { sound: changed.sound })
  void trying.tryVoice(changed)
}
function rename(voice: Voice, event: Event) {
  const field = event.target as HTMLInputElement
  const name = field.value.trim()
  if (name && name !== voice.name) changeVoice(voice, `renamed ${name}`, { name })
  else field.value = voice.name
}
function removeVoice(voice: Voice) {
  change(`without ${voice.name}`, { voices: kit.value?.voices.filter(({ id }) => id !== voice.id) ?? [] })
}

// ---- Sounds of one's own ----
const chooser = ref<HTMLInputElement>()
function addFiles(files: FileList | null | undefined) {
  void told(async () => {
    const stored = await soundFiles.store([...(files ?? [])])
    await soundFiles.addToKit(stored)
    const [first] = stored
    if (first) void trying.tryVoice(first)
    await readSounds()
  })
  if (chooser.value) chooser.value.value = ''
}

// ---- Kits of one's own ----
const kitName = ref('')
const keepKit = () =>
  told(async () => {
    const name = kitName.value.trim()
    if (!kit.value || !name) return
    const kept = { ...kit.value, name }
    await library.keepKit(kept)
    change(`kept as ${name}`, { name })
    await readKits()
    if (kitName.value.trim() === name) kitName.value = ''
    notices.say(`Kept the kit “${name}”: any piece can play it.`)
  })
const forgetKit = (one: ListedKit) =>
  told(async () => {
    if (one.id === null) return
    await library.deleteKit(one.id)
    await readKits()
    notices.say(`“${one.kit.name}” is no longer among your kits.`, {
      label: 'Undo',
      act: () => told(async () => {
        await library.keepKit(one.kit)
        await readKits()
      }),
    }) // prettier-ignore
  })
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
                    @change="takeSound(voice, $event)"
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
            @change="addFiles(chooser?.files)"
          />
          <form class="keep" @submit.prevent="keepKit">
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

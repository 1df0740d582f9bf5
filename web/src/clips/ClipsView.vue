<script setup lang="ts">
/** The collection: kept clips of all pieces, found, heard, grouped and exported. */
import { refDebounced } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import { clipsApi } from '@/api/clips'
import type { ClipLine } from '@/api/client'
import { useFrames } from '@/page/useFrames'
import { useOwnPlay } from '@/playing/useOwnPlay'
import { useShortcuts } from '@/page/useShortcuts'
import { usePages } from '@/page/useLists'
import { usePiece } from '@/work/piece'
import { useLoops } from '@/playing/loops'
import ClipCard from './ClipCard.vue'
import ExportCard from './ExportCard.vue'
import ImportCard from './ImportCard.vue'
import LanesCard from './LanesCard.vue'
import { loopOfClip } from './loopOf'
import { useClipActions } from './useClipActions'

const router = useRouter()
const loops = useLoops()
const piece = usePiece()

// ---- Looking ----
const words = ref('')
const setName = ref<string | null>(null)
const tag = ref('')
const isLooking = computed(() => words.value !== '' || setName.value !== null || tag.value !== '')
const searched = refDebounced(words, 120)
const {
  page,
  lines: clips,
  more,
  again: load,
} = usePages(
  () => ['clips', searched.value, setName.value, tag.value],
  (first) =>
    clipsApi.list({
      words: searched.value,
      tag: tag.value,
      first,
      ...(setName.value !== null && { set_name: setName.value }),
    }),
  (found) => found.clips,
)

// ---- Hearing ----
const heard = computed(() => {
  const [kind, id] = loops.looping.split(' ')
  return kind === 'clip' ? Number(id) : null
})
const at = ref<number | null>(null)
function start(id: number) {
  at.value = id
  return loops.play(`clip ${id}`, async () => loopOfClip(await clipsApi.open(id)))
}
const hear = (id: number) => (heard.value === id ? loops.stop() : start(id))
useOwnPlay(() => {
  const first = at.value ?? clips.value[0]?.id
  return first === undefined ? undefined : start(first)
})
function walk(by: number) {
  const place = clips.value.findIndex(({ id }) => id === at.value)
  const next = clips.value[Math.max(0, Math.min(clips.value.length - 1, place + by))]
  if (!next) return
  void start(next.id)
  document.querySelector(`[data-clip="${next.id}"]`)?.scrollIntoView({ block: 'nearest' })
}
useShortcuts({
  'ArrowDown': { says: 'Hear the next clip', act: () => walk(1) },
  'ArrowUp': { says: 'Hear the clip before', act: () => walk(-1) },
  'Enter': { says: 'Work on the clip', act: () => at.value !== null && router.push(`/clips/${at.value}`) },
}) // prettier-ignore
const nowTick = ref(0)
useFrames(
  () => (nowTick.value = loops.player?.nowTick ?? 0),
  () => heard.value !== null,
  () => heard.value,
  30,
)

const { describe, copy, remove, reopen, place } = useClipActions(load)
const asLanes = shallowRef<ClipLine | null>(null)
/** What is open beside which button; null: nothing. */
const menu = shallowRef<{ clip: ClipLine; kind: 'export' | 'more'; beside: HTMLElement } | null>(null)

// ---- Files ----
const files = shallowRef<File[]>([])
const isOver = ref(false)
function drop(event: DragEvent) {
  isOver.value = false
  const dropped = [...(event.dataTransfer?.files ?? [])]
  if (dropped.length) files.value = dropped
}
function choose(event: Event) {
  const input = event.target as HTMLInputElement
  files.value = [...(input.files ?? [])]
  input.value = ''
}
/** What was imported is shown, whatever was looked for before. */
async function imported() {
  files.value = []
  ;[words.value, setName.value, tag.value] = ['', null, '']
  await load()
}
</script>

<template>
  <main
    class="clips"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave.self="isOver = false"
    @drop.prevent="drop"
  >
    <header>
      <h1>Clips</h1>
      <input
        v-model="words"
        class="small-field search"
        type="search"
        placeholder="Find by name, piece, set or tag"
        aria-label="Find clips"
      />
      <span v-if="page" class="soft" role="status"
        >{{ page.total }} {{ page.total === 1 ? 'clip' : 'clips' }}</span
      >
      <button v-if="clips.length" type="button" class="word-button" aria-label="Export these as one zip">
        {{ setName ? `Export “${setName}” …` : 'Export these …' }}
        <v-menu activator="parent" :close-on-content-click="false" location="bottom end">
          <ExportCard :several="setName ? { set_name: setName } : { ids: clips.map(({ id }) => id) }" />
        </v-menu>
      </button>
      <label class="word-button">
        Import .mid …
        <input class="visually-hidden" type="file" accept=".mid,.midi,audio/midi" multiple @change="choose" />
      </label>
    </header>
    <datalist id="clip-sets">
      <option v-for="one in page?.sets ?? []" :key="one" :value="one" />
    </datalist>
    <nav v-if="page && (page.sets.length || page.tags.length)" class="filters" aria-label="Sets and tags">
      <button
        v-for="one in page.sets"
        :key="one"
        type="button"
        class="word-button"
        :aria-pressed="setName === one"
        @click="setName = setName === one ? null : one"
      >
        {{ one }}
      </button>
      <button
        v-for="one in page.tags"
        :key="one"
        type="button"
        class="tag"
        :aria-pressed="tag === one"
        @click="tag = tag === one ? '' : one"
      >
        {{ one }}
      </button>
    </nav>
    <ImportCard v-if="files.length" :files="files" @done="imported" @close="files = []" />
    <ul>
      <ClipCard
        v-for="clip in clips"
        :key="clip.id"
        :clip="clip"
        :is-heard="heard === clip.id"
        :now-tick="heard === clip.id ? nowTick : null"
        :can-place="piece.document !== null && clip.origin !== null"
        @hear="hear(clip.id)"
        @describe="(fields) => describe(clip, fields)"
        @place="place(clip)"
        @menu="(kind, beside) => (menu = { clip, kind, beside })"
      />
    </ul>
    <button v-if="page && clips.length < page.total" type="button" class="word-button more" @click="more">
      More: {{ page.total - clips.length }} are left
    </button>
    <div v-if="page && !clips.length" class="empty">
      <template v-if="isLooking">
        <h2>Nothing found</h2>
        <button
          type="button"
          class="word-button strong"
          @click="((words = ''), (setName = null), (tag = ''))"
        >
          Show all clips
        </button>
      </template>
      <template v-else>
        <h2>No clip yet</h2>
        <p>
          Open a piece, press play, and when something good went by press <b>Keep</b>: the tape has been
          running all the time. Or drop MIDI files here.
        </p>
        <RouterLink class="word-button strong" to="/">To the shelf</RouterLink>
      </template>
    </div>
    <v-menu
      :model-value="menu !== null"
      :target="menu?.beside"
      :close-on-content-click="menu?.kind === 'more'"
      location="bottom end"
      @update:model-value="(isOpen) => isOpen || (menu = null)"
    >
      <ExportCard v-if="menu?.kind === 'export'" :clip="menu.clip" />
      <div v-else-if="menu" class="card acts" role="dialog" :aria-label="`More of ${menu.clip.name}`">
        <button type="button" class="quiet-button" @click="asLanes = menu.clip">Make lanes of it …</button>
        <button v-if="menu.clip.origin" type="button" class="quiet-button" @click="reopen(menu.clip)">
          Open its pattern again as it stood
        </button>
        <button type="button" class="quiet-button" @click="copy(menu.clip)">Copy</button>
        <button
          type="button"
          class="quiet-button"
          :aria-label="`Delete ${menu.clip.name}`"
          @click="remove(menu.clip)"
        >
          Delete
        </button>
      </div>
    </v-menu>
    <v-dialog
      :model-value="asLanes !== null"
      aria-label="Make lanes"
      width="auto"
      @update:model-value="asLanes = null"
    >
      <LanesCard v-if="asLanes" :clip="asLanes" @close="asLanes = null" />
    </v-dialog>
  </main>
</template>

<style scoped>
.clips {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 18px 32px 40px;
}
.clips.over {
  outline: 3px dashed var(--act);
  outline-offset: -8px;
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-bottom: 12px;
}
h1 {
  font-size: 28px;
  color: var(--ink);
}
.search {
  width: 320px;
  min-height: 36px;
  border-radius: 18px;
  padding: 2px 16px;
}
.soft {
  margin-right: auto;
  color: var(--soft-ink);
}
label.word-button {
  display: grid;
  place-items: center;
}
label.word-button:focus-within {
  outline: 2px solid var(--act);
}
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 12px;
}
.filters [aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--paper);
}
.tag {
  min-height: 32px;
  padding: 0 12px;
  border-radius: 10px;
  background: color-mix(in srgb, var(--keep) 35%, var(--card));
  font: 500 14px/1 var(--text-font);
  cursor: pointer;
}
ul {
  list-style: none;
  display: grid;
  gap: 12px;
  margin-top: 12px;
}
.more {
  margin: 16px auto 0;
  display: block;
}
.acts {
  display: grid;
  padding: 8px;
}
.acts .quiet-button {
  text-align: left;
  min-height: 34px;
}
.word-button {
  text-decoration: none;
}
.empty {
  display: grid;
  justify-items: start;
  gap: 14px;
  max-width: 520px;
  padding: 60px 0;
}
</style>

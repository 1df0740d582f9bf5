<script setup lang="ts">
/** The clip as something to work on: its notes under the hand, while it goes round. */
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { SetClip } from '@/api/limits.json'
import { controllerName, PRESSURE } from '@/sound/neutral'
import { melody } from '@/engine/melody'
import { useOffer } from '@/page/useLists'
import { useOwnHistory } from '@/page/ownHistory'
import NameField from '@/page/NameField.vue'
import { useOwnPlay } from '@/playing/useOwnPlay'
import { usePiece } from '@/work/piece'
import { placeClip } from '@/playing/clipsInPlace'
import { useLoops } from '@/playing/loops'
import { inkOf } from '@/theme/inks'
import ExportCard from '../ExportCard.vue'
import LanesCard from '../LanesCard.vue'
import { loopOfClip } from '../loopOf'
import { originOf } from '../said'
import EditPanel from './EditPanel.vue'
import EditSheet from './EditSheet.vue'
import GridTools from './GridTools.vue'
import JoinMenu from './JoinMenu.vue'
import { rowsOf, type View, type Window } from './layout'
import { useChoosing } from './useChoosing'
import { useClip } from './useClip'
import { useGrid } from './useGrid'
import { useEditorKeys } from './useEditorKeys'

const props = defineProps<{ id: number }>()
const router = useRouter()
const loops = useLoops()
const piece = usePiece()
const { clip, opened, chosen, chosenCount, isGone, load, act, undo, redo, join, rename } = useClip(
  () => props.id,
)
watch(() => props.id, load, { immediate: true })

// ---- What is seen: as it is now, or as it was when it was opened ----
const isBefore = ref(false)
const seen = computed(() => (isBefore.value ? opened.value : clip.value))
const document = computed(() => seen.value?.document ?? null)
const view = ref<View>('drums')
watch(
  () => clip.value?.id,
  () => {
    view.value = clip.value?.is_melody ? 'melody' : 'drums'
  },
)
/** The keys of the clip's scale: how its pitches are called. */
const keys = useOffer(
  () => ['keyboard', document.value?.scale],
  () => melody.keyboard(document.value?.scale ?? null),
  () => document.value !== null,
)
const nameOf = (pitch: number) => keys.value?.[pitch]?.name ?? ''
const rows = computed(() => rowsOf(document.value?.tracks ?? [], view.value, nameOf))
const sheetWindow = shallowRef<Window>({ firstTick: 0, perTick: 0.01, rowHeight: 26, top: 0 })
const sheet = useTemplateRef('sheet')

// ---- The grid ----
const { step, snaps, stepTicks } = useGrid()
const track = ref(0)
const controller = ref<number | null>(null)
const painted = computed(() =>
  controller.value === null ? null : { track: track.value, controller: controller.value },
)
const controllers = computed(() =>
  [
    ...new Set([
      74,
      1,
      7,
      10,
      ...(document.value?.tracks ?? []).flatMap(({ controls }) => controls.map(([, number]) => number)),
    ]),
  ].filter((number) => number < PRESSURE),
)

// ---- Sound ----
const name = computed(() => `clip ${props.id}`)
const isPlaying = computed(() => loops.looping === name.value)
function start() {
  const clip = seen.value
  return clip && loops.play(name.value, () => loopOfClip(clip))
}
useOwnPlay(start)
watch(seen, (now) => now && loops.change(name.value, loopOfClip(now)))
const nowTick = () => loops.player?.nowTick ?? 0

// ---- Choosing and copying ----
const { copied, chooseAll, chooseRow, copy } = useChoosing(
  () => clip.value?.document ?? null,
  chosen,
  () => rows.value,
)
function chooseLane(row: number, isMore: boolean) {
  track.value = chooseRow(row, isMore) ?? track.value
}
const paste = () => copied.notes.length && act({ kind: 'paste', notes: [...copied.notes] })

useEditorKeys({
  act,
  canAct: () => chosenCount.value > 0 && !isBefore.value,
  step: () => step.value,
  view: () => view.value,
  copy,
  paste,
  chooseAll,
  chooseNone: () => (chosen.value = []),
  compare: () => (isBefore.value = !isBefore.value),
  zoom: (by) => sheet.value?.zoom(by),
})

useOwnHistory().take({ undo, redo })

const isMakingLanes = ref(false)
async function place() {
  if (!clip.value) return
  await placeClip(props.id, clip.value.document.name)
  await router.push(`/lattice/${piece.id}`)
}
</script>

<template>
  <main class="editor">
    <div v-if="isGone" class="empty">
      <h2>There is no such clip</h2>
      <RouterLink class="word-button strong" to="/clips">To the clips</RouterLink>
    </div>
    <template v-else-if="clip && document">
      <header>
        <NameField :name="clip.document.name" label="Name of the clip" @rename="rename" />
        <span class="soft from">{{ originOf(clip) }}</span>
        <button
          v-tip="'It goes round while you work (Space)'"
          type="button"
          class="word-button"
          :aria-pressed="isPlaying"
          @click="isPlaying ? loops.stop() : start()"
        >
          {{ isPlaying ? 'Stop' : 'Loop it' }}
        </button>
        <button
          v-tip="`${clip.undo || 'Nothing to undo'} (Ctrl+Z)`"
          type="button"
          class="word-button"
          :disabled="!clip.undo"
          @click="undo"
        >
          Undo
        </button>
        <button
          v-tip="clip.redo || 'Nothing to redo'"
          type="button"
          class="word-button"
          :disabled="!clip.redo"
          @click="redo"
        >
          Redo
        </button>
        <button
          v-tip="'See and hear it as it was when you opened it (C)'"
          type="button"
          class="word-button"
          :aria-pressed="isBefore"
          @click="isBefore = !isBefore"
        >
          {{ isBefore ? 'Back to now' : 'As it was opened' }}
        </button>
        <button v-if="piece.document && clip.origin" type="button" class="word-button" @click="place">
          Play in place
        </button>
        <button type="button" class="word-button">
          Export …
          <v-menu activator="parent" :close-on-content-click="false" location="bottom end">
            <ExportCard :clip="{ id, name: clip.document.name }" />
          </v-menu>
        </button>
      </header>
      <div class="tools">
        <span class="pair" role="group" aria-label="View">
          <button type="button" :aria-pressed="view === 'drums'" @click="view = 'drums'">lanes</button>
          <button type="button" :aria-pressed="view === 'melody'" @click="view = 'melody'">pitches</button>
        </span>
        <GridTools v-model:step="step" v-model:snaps="snaps" />
        <span class="gap" />
        <label>
          below:
          <select v-model="controller" class="small-field" aria-label="Painted below">
            <option :value="null">velocity</option>
            <option v-for="number in controllers" :key="number" :value="number">
              {{ controllerName(number) }} of {{ document.tracks[track]?.lane }}
            </option>
          </select>
        </label>
        <span role="group" aria-label="Zoom">
          <button type="button" class="quiet-button" @click="sheet?.zoom(0.8)">see more</button>
          <button type="button" class="quiet-button" @click="sheet?.zoom(1.25)">larger</button>
          <button type="button" class="quiet-button" @click="sheet?.showAll()">all</button>
        </span>
      </div>
      <div class="names" :style="{ '--row': `${sheetWindow.rowHeight}px` }">
        <div class="scrolled" :style="{ transform: `translateY(${-sheetWindow.top}px)` }">
          <button
            v-for="(row, at) in rows"
            :key="at"
            type="button"
            class="inked"
            :class="{ here: row.track === track && view === 'drums' }"
            :style="{
              borderLeft: `5px solid ${row.track === null ? 'transparent' : inkOf(document.tracks[row.track]?.ink ?? 0)}`,
            }"
            :aria-label="`Choose all of ${row.label}`"
            @click="(event) => chooseLane(at, event.shiftKey)"
          >
            {{ rows.length > 40 && at % 2 ? '' : row.label }}
          </button>
        </div>
        <span class="below">{{ controller === null ? 'velocity' : controllerName(controller) }}</span>
      </div>
      <EditSheet
        ref="sheet"
        v-model:window="sheetWindow"
        class="sheet"
        :clip="document"
        :rows="rows"
        :view="view"
        :chosen="isBefore ? [] : chosen"
        :step="step"
        :step-ticks="stepTicks"
        :snaps="snaps"
        :control="painted"
        :track="track"
        :is-readonly="isBefore"
        :is-playing="isPlaying"
        :now-tick="nowTick"
        @act="act"
        @choose="(fresh) => (chosen = fresh)"
        @track="(fresh) => (track = fresh)"
      />
      <EditPanel
        class="panel"
        :clip="clip.document"
        :chosen="chosen"
        :step="step"
        :bars="clip.bars"
        :name-of="nameOf"
        @act="act"
      >
        <p>
          <JoinMenu :id="id" @join="join" />
          <button type="button" class="word-button" @click="isMakingLanes = true">Make lanes …</button>
        </p>
        <p>
          <label
            >tempo
            <input
              v-shown="clip.document.tempo"
              class="small-field"
              type="number"
              v-bind="SetClip.tempo"
              step="0.01"
              aria-label="Tempo"
              @change="
                (event) => act({ kind: 'clip', tempo: Number((event.target as HTMLInputElement).value) })
              "
          /></label>
        </p>
      </EditPanel>
      <v-dialog v-model="isMakingLanes" aria-label="Make lanes" width="auto">
        <LanesCard :clip="{ id, name: clip.document.name }" @close="isMakingLanes = false" />
      </v-dialog>
    </template>
    <p v-else class="empty">Opening …</p>
  </main>
</template>

<style scoped>
.editor {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template: auto auto minmax(0, 1fr) / 104px minmax(0, 1fr) 290px;
}
header {
  grid-column: 1 / -1;
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 10px 16px 6px 20px;
}
header :deep(.name-field) {
  width: auto;
  font-size: 22px;
  flex: none;
}
.from {
  margin-right: auto;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.soft {
  color: var(--soft-ink);
  font-size: 14px;
}
.tools {
  grid-column: 1 / -1;
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 4px 16px 8px 20px;
  border-bottom: 1.5px solid var(--rule);
  font-size: 14px;
}
.tools .small-field[type='number'] {
  width: 52px;
}
.gap {
  margin-left: auto;
}
.pair {
  flex: none;
  display: flex;
  border: 1.5px solid var(--rule);
  border-radius: 16px;
  overflow: hidden;
}
.pair button {
  padding: 4px 14px;
  min-height: 30px;
  font: 600 14px/1.2 var(--text-font);
  cursor: pointer;
}
[aria-pressed='true'].word-button,
.pair [aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.names {
  position: relative;
  overflow: hidden;
  border-right: 1.5px solid var(--rule);
  margin-top: 22px;
}
.scrolled {
  position: absolute;
  inset: 0 0 auto;
}
.names button {
  display: block;
  width: 100%;
  height: var(--row);
  padding: 0 8px 0 20px;
  text-align: left;
  font: 600 14px/1 var(--text-font);
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  cursor: pointer;
}
.names button:hover,
.names .here {
  background: color-mix(in srgb, var(--rule) 40%, transparent);
}
.below {
  position: absolute;
  inset: auto 0 0;
  height: 92px;
  padding: 8px 8px 0 20px;
  background: var(--paper);
  border-top: 1.5px solid var(--soft-ink);
  font-size: 14px;
  color: var(--soft-ink);
}
.empty {
  grid-column: 1 / -1;
  display: grid;
  justify-items: start;
  align-content: start;
  gap: 14px;
  padding: 60px 32px;
}
.word-button {
  text-decoration: none;
}
@media (max-width: 900px) {
  header,
  .tools {
    flex-wrap: wrap;
  }
}
</style>

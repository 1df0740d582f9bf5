<script setup lang="ts">
/** The lattice: every lane a sentence and a thread. */
import { useElementSize, useEventListener, useResizeObserver } from '@vueuse/core'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Lane, LanePicture, Word } from '@/api/client'
import { useShortcuts } from '@/composables/useShortcuts'
import { withValueAt, type Patch } from '@/stores/document'
import { useNotices } from '@/stores/notices'
import { usePiece } from '@/stores/piece'
import { usePlaying } from '@/stores/playing'
import { inkOf } from '@/theme/inks'
import type { Scale } from './geometry'
import LaneHead from './LaneHead.vue'
import LaneThread from './LaneThread.vue'
import Playhead from './Playhead.vue'
import Ruler from './Ruler.vue'
import SentenceLine from './sentence/SentenceLine.vue'
import { useLaneEdits } from './useLaneEdits'
import { useRendering } from './useRendering'
import { useView, VIEWS } from './useView'
import Weft from './Weft.vue'

const props = defineProps<{ id: number }>()
const piece = usePiece()
const playing = usePlaying()
const notices = useNotices()
const edits = useLaneEdits()
const router = useRouter()

const view = useView(() => playing.isPlaying)
const question = computed(() =>
  piece.score ? { score: piece.score, dice: piece.dice, window: view.window.value } : null,
)
const { rendering, error, answered } = useRendering(question)
const voices = computed(() => piece.document?.kit.voices ?? [])
const pictures = computed(() => new Map(rendering.value?.lanes.map((picture) => [picture.id, picture])))
const stepPart = computed(
  () => rendering.value?.standing.filter(({ setting }) => setting === 'step value') ?? [],
)

watch(
  () => props.id,
  async (id) => {
    try {
      await piece.open(id)
      view.begin()
      chosen.value = piece.lanes[0]?.id ?? null
      void playing.ready()
    } catch (reason) {
      notices.complain(reason)
      void router.replace('/')
    }
  },
  { immediate: true },
)
watch(error, (reason) => {
  if (reason) notices.complain(reason, { label: 'Undo', act: () => piece.undo() })
})

// ---- Where things lie ----
const threads = useTemplateRef<HTMLElement>('threads')
const stack = useTemplateRef<HTMLElement>('stack')
const rows = useTemplateRef<HTMLElement[]>('rows')
const { width } = useElementSize(threads)
const scale = computed<Scale>(() => ({
  firstTick: rendering.value?.first_tick ?? 0,
  endTick: rendering.value?.end_tick ?? 1,
  width: Math.round(width.value),
}))
const THREAD = 60
const heights = shallowRef<ReadonlyMap<string, number>>(new Map())
const middles = shallowRef<ReadonlyMap<string, number>>(new Map())
const total = ref(0)
function measure() {
  const placed = (rows.value ?? []).map((row) => [row.dataset['lane'] ?? '', row] as const)
  heights.value = new Map(placed.map(([id, row]) => [id, row.offsetHeight]))
  middles.value = new Map(placed.map(([id, row]) => [id, row.offsetTop + row.offsetHeight / 2]))
  total.value = placed.reduce((sum, [, row]) => sum + row.offsetHeight, 0)
}
// Reading heights costs a layout: only when a row may have another one.
useResizeObserver(stack, measure)
watch(() => piece.lanes.map(({ id }) => id).join(' '), measure, { flush: 'post' })

// ---- Which lane, which step ----
const chosen = ref<string | null>(null)
const cursor = ref<number | null>(null)
const chosenLane = computed(() => piece.lanes.find(({ id }) => id === chosen.value) ?? null)
function choose(id: string | null) {
  if (id !== chosen.value) cursor.value = null
  chosen.value = id
}
function chooseBy(by: number) {
  const at = piece.lanes.findIndex(({ id }) => id === chosen.value)
  choose(piece.lanes[Math.min(piece.lanes.length - 1, Math.max(0, at + by))]?.id ?? null)
}
function walk(by: number) {
  const steps = chosen.value ? pictures.value.get(chosen.value)?.steps : undefined
  if (steps)
    cursor.value = cursor.value === null ? (by > 0 ? 0 : steps - 1) : (cursor.value + by + steps) % steps
}

// ---- Painting steps: all that one stroke touched become what its first step became ----
let stroke: { picture: LanePicture; isHit: boolean; steps: Set<number>; gesture: string } | null = null
function press(lane: Lane, step: number, isHit: boolean) {
  choose(lane.id)
  const picture = pictures.value.get(lane.id)
  if (!picture) return
  const gesture = `stroke ${crypto.getRandomValues(new Uint32Array(1))[0]}`
  stroke = { picture, isHit: !isHit, steps: new Set(), gesture }
  paint(lane, step, isHit)
}
function paint(lane: Lane, step: number, isHit: boolean) {
  if (!stroke || stroke.steps.has(step) || isHit === stroke.isHit) return
  stroke.steps.add(step)
  edits.setSteps(lane, stroke.picture, [...stroke.steps], stroke.isHit, stroke.gesture)
}
function turnStep() {
  const lane = chosenLane.value
  const picture = lane && pictures.value.get(lane.id)
  if (!lane || !picture || cursor.value === null) return
  edits.setSteps(lane, picture, [cursor.value], !picture.cycle_hits.includes(cursor.value))
}

// ---- The pattern ----
function movePattern(word: Word, value: number | string, gesture: string) {
  piece.editPattern(`${word.name} → ${value}`, (pattern) => withValueAt(pattern, word.field, value), gesture)
}
function patchPattern(label: string, patch: Patch) {
  piece.editPattern(label, (pattern) => ({ ...pattern, ...patch }))
}

const withChosen = (act: (lane: Lane) => unknown) => () => {
  if (chosenLane.value) act(chosenLane.value)
}
function remove(lane: Lane) {
  const at = piece.lanes.indexOf(lane)
  edits.remove(lane)
  choose((piece.lanes[at] ?? piece.lanes.at(-1))?.id ?? null)
}
/** Move the hits of a euclidean lane: the number of its sentence that says so. */
function moveHits(by: number) {
  const lane = chosenLane.value
  const words = lane && pictures.value.get(lane.id)?.sentence.parts.flatMap((part) => part.words)
  const hits = words?.find(({ field }) => field === 'source.hits')
  if (lane && hits)
    edits.move(lane, hits, Math.min(hits.high, Math.max(hits.low, hits.value + by)), `keys ${lane.id}`)
}

useShortcuts({
  'ArrowUp': { says: 'Lane above', act: () => chooseBy(-1) },
  'ArrowDown': { says: 'Lane below', act: () => chooseBy(1) },
  'ArrowLeft': { says: 'Step before', act: () => walk(-1) },
  'ArrowRight': { says: 'Step after', act: () => walk(1) },
  'Enter': { says: 'Step: hit or rest', act: turnStep },
  'm': { says: 'Mute the lane', act: withChosen((lane) => playing.mute(lane.id, !lane.mute)) },
  's': { says: 'Solo the lane', act: withChosen((lane) => playing.solo(lane.id, !lane.solo)) },
  '+': { says: 'One hit more', act: () => moveHits(1) },
  '-': { says: 'One hit fewer', act: () => moveHits(-1) },
  'n': { says: 'New lane', act: () => choose(edits.add()) },
  'd': { says: 'Copy the lane', act: withChosen((lane) => choose(edits.copy(lane))) },
  'Shift+Delete': { says: 'Remove the lane', act: withChosen(remove) },
}) // prettier-ignore

useEventListener(
  stack,
  'wheel',
  (event: WheelEvent) => {
    if (!event.shiftKey) return
    event.preventDefault()
    view.scroll(Math.sign(event.deltaY || event.deltaX))
  },
  { passive: false },
)

const labelOf = (lane: Lane) => {
  const picture = pictures.value.get(lane.id)
  return picture
    ? `Thread of ${lane.name}: hits on steps ${picture.cycle_hits.map((hit) => hit + 1).join(', ') || 'none'} of ${picture.steps}`
    : ''
}
</script>

<template>
  <main v-if="piece.document && rendering" class="lattice" :data-answered="answered">
    <div class="corner">
      <div class="counts">
        <span class="named">{{ piece.lanes.length }} {{ piece.lanes.length === 1 ? 'lane' : 'lanes' }}</span>
        <span class="steps">
          steps of
          <SentenceLine
            owner="Pattern"
            :parts="stepPart"
            :target="piece.pattern ?? {}"
            @move="movePattern"
            @patch="patchPattern"
            @cancel="piece.takeBack"
          />
        </span>
      </div>
      <div class="meeting" data-test="meeting">{{ rendering.meeting.says }}</div>
    </div>
    <div class="ruler-row">
      <Ruler v-if="scale.width" :rendering="rendering" :scale="scale" @play-from="playing.play" />
    </div>

    <div class="lanes">
      <div ref="stack" class="stack">
        <div ref="threads" class="over-threads">
          <Weft :rendering="rendering" :scale="scale" />
        </div>
        <div
          v-for="lane in piece.lanes"
          :key="lane.id"
          ref="rows"
          class="row"
          :class="{ chosen: lane.id === chosen }"
          :data-lane="lane.id"
        >
          <LaneHead
            :lane="lane"
            :picture="pictures.get(lane.id)"
            :voices="voices"
            :is-chosen="lane.id === chosen"
            @choose="choose(lane.id)"
            @move="(word, value, gesture) => edits.move(lane, word, value, gesture)"
            @patch="(label, patch) => edits.patch(lane, label, patch)"
            @cancel="piece.takeBack"
            @mute="(isMuted) => playing.mute(lane.id, isMuted)"
            @solo="(isSolo) => playing.solo(lane.id, isSolo)"
            @listen="playing.tryVoice"
            @copy="choose(edits.copy(lane))"
            @remove="remove(lane)"
          />
          <div class="thread-place">
            <LaneThread
              v-if="scale.width && pictures.get(lane.id)"
              :picture="pictures.get(lane.id)!"
              :scale="scale"
              :height="heights.get(lane.id) ?? THREAD"
              :ink="inkOf(lane.ink)"
              :label="labelOf(lane)"
              :cursor="lane.id === chosen ? cursor : null"
              @press="(step, isHit) => press(lane, step, isHit)"
              @paint="(step, isHit) => paint(lane, step, isHit)"
              @release="stroke = null"
            />
          </div>
        </div>
        <Playhead
          class="head-over-threads"
          :player="playing.player"
          :is-playing="playing.isPlaying"
          :scale="scale"
          :middles="middles"
          :height="total"
          @at="(tick) => view.follow(Math.floor(tick / rendering!.bar_ticks))"
        />
      </div>
      <p v-if="piece.lanes.length === 0" class="empty">
        No lane yet. Add one: it begins as 3 in 8, and its sentence says what to turn.
      </p>
    </div>
    <div class="below">
      <button type="button" class="word-button" @click="choose(edits.add())">
        + lane<v-tooltip activator="parent">A new lane (N)</v-tooltip>
      </button>
      <div class="view" role="group" aria-label="Bars in view">
        <button
          type="button"
          class="quiet-button"
          aria-label="Earlier bars"
          :disabled="view.firstBar.value === 0"
          @click="view.scroll(-view.bars.value)"
        >
          ‹
        </button>
        <button
          v-for="count in VIEWS"
          :key="count"
          type="button"
          class="count"
          :aria-pressed="count === view.bars.value"
          :aria-label="`${count} bars in view`"
          @click="view.show(count)"
        >
          {{ count }}
        </button>
        <span>bars</span>
        <button
          type="button"
          class="quiet-button"
          aria-label="Later bars"
          @click="view.scroll(view.bars.value)"
        >
          ›
        </button>
        <button
          v-if="!view.isFollowing.value && playing.isPlaying"
          type="button"
          class="quiet-button"
          @click="view.isFollowing.value = true"
        >
          follow
        </button>
      </div>
    </div>
  </main>
  <main v-else class="waiting" aria-busy="true">Fetching the piece …</main>
</template>

<style scoped src="./lattice.css"></style>

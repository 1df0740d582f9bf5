<script setup lang="ts">
/** The lattice: every lane a sentence and a thread, the chosen one whole on the bench. */
import { useElementSize, useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { ApiError, type Alternative, type Lane, type Progression, type Word } from '@/api/client'
import { engine } from '@/engine/engine'
import { isWaiting } from '@/api/policy'
import Bench from '@/bench/Bench.vue'
import type { BenchSize } from '@/bench/sizes'
import { newGesture } from '@/page/gesture'
import { valueAt, withValueAt, type Patch } from '@/work/document'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { usePlaying } from '@/playing/playing'
import { barOf } from '@/sound/time'
import { inkOf } from '@/theme/inks'
import KeysPanel from '@/keyboard/KeysPanel.vue'
import { useSoundFiles } from '@/kit/useSoundFiles'
import ProgressionRow from '@/progression/ProgressionRow.vue'
import { type Scale } from './geometry/scale'
import { yOfPitch } from './geometry/staff'
import ScaleWords from './ScaleWords.vue'
import LaneHead from './LaneHead.vue'
import LaneThread from './thread/LaneThread.vue'
import Playhead from './Playhead.vue'
import Ruler from './Ruler.vue'
import SentenceLine from '@/sentence/SentenceLine.vue'
import { useChosenLanes } from '@/hands/useChosenLanes'
import { shownProperty } from './propertyViews'
import StretchBar from './StretchBar.vue'
import { useLaneEdits } from '@/hands/useLaneEdits'
import { useLatticeKeys } from './useLatticeKeys'
import { useRendering } from '@/engine/useRendering'
import { useRows } from './useRows'
import { useStretch } from '@/hands/useStretch'
import { useStroke } from '@/hands/useStroke'
import { useView } from '@/engine/useView'
import KeptBar from './KeptBar.vue'
import ViewBar from './ViewBar.vue'
import Weft from './Weft.vue'

const props = defineProps<{ id: number }>()
const piece = usePiece()
const playing = usePlaying()
const notices = useNotices()
const router = useRouter()

const view = useView(() => playing.isPlaying)
const isBenchOpen = useLocalStorage('jolly-lattice-bench', true)
const benchSize = useLocalStorage<BenchSize>('jolly-lattice-bench-size', 'medium')
const chosen = useChosenLanes(() => piece.lanes)
const question = computed(() =>
  piece.score
    ? {
        score: piece.score,
        dice: piece.dice,
        window: view.window.value,
        chosen: chosen.chosen.value.map(({ id }) => id),
        shown: shownProperty.value,
      }
    : null,
)
const { rendering, error, accepted, answered } = useRendering(question)
const voices = computed(() => piece.document?.kit.voices ?? [])
const pictures = computed(() => new Map(rendering.value?.lanes.map((picture) => [picture.id, picture])))
const stepTicks = computed(
  () => new Map(rendering.value?.lanes.map(({ id, step_ticks }) => [id, step_ticks])),
)
const benches = computed(() => new Map(rendering.value?.benches.map((bench) => [bench.id, bench])))
const standing = (...names: string[]) =>
  rendering.value?.standing.filter(({ setting }) => names.includes(setting)) ?? []

const edits = useLaneEdits({
  meant: (lane) => allOr(lane),
  picture: (id) => pictures.value.get(id),
  bench: (id) => benches.value.get(id),
})

const stretch = useStretch({
  meant: (lane) => allOr(lane),
  lanes: () => piece.lanes,
  picture: (id) => pictures.value.get(id),
  patchEach: edits.patchEach,
})
/** Paste where steps are chosen, else at the step under the cursor, else where the view begins. */
function paste() {
  const lane = chosen.first.value
  if (!lane) return
  const shown = pictures.value.get(lane.id)
  const at = shown?.numbers.indexOf(chosen.cursor.value ?? -1) ?? -1
  void stretch.paste(lane, shown?.starts[at] ?? rendering.value?.first_tick ?? 0)
}

watch(
  () => props.id,
  async (id) => {
    try {
      await piece.open(id)
      if (props.id !== id) return
      view.begin()
      void playing.ready()
    } catch (reason) {
      if (props.id !== id) return
      notices.complain(reason)
      // Where it can be opened again, the page stays; elsewhere there is nothing to stay for.
      if (!isWaiting(reason)) void router.replace('/')
    }
  },
  { immediate: true },
)
watch(
  () => piece.pattern?.id,
  () => {
    view.begin()
    stretch.drop()
  },
)
watch(error, (refused) => {
  if (!refused) return
  notices.complain(refused.reason)
  const { reason, asked } = refused
  if (!(reason instanceof ApiError) || reason.status !== 422 || asked.score === accepted.value?.score) return
  // What was done since the engine agreed last is taken back, as if it had never been; nothing of it is saved.
  const { standsAt } = piece.history
  for (let undo = Math.max(1, standsAt - agreedAt); undo > 0; undo--) piece.takeBackLast()
})
/** At which moment of the history each score stood; and the one at which the engine agreed last. */
const stands = new WeakMap<object, number>()
let agreedAt = 0
watch(
  () => piece.score,
  (score) => score && stands.set(score, piece.history.standsAt),
  { immediate: true, flush: 'sync' },
)
watch(accepted, (question) => {
  agreedAt = (question && stands.get(question.score)) ?? agreedAt
})

// ---- Where things lie ----
const threads = useTemplateRef<HTMLElement>('threads')
const stack = useTemplateRef<HTMLElement>('stack')
const rows = useTemplateRef<HTMLElement[]>('rows')
const { width } = useElementSize(threads)
// The same object while it says the same: threads are drawn again where it changes.
const scale = computed<Scale>((old) => {
  const firstTick = rendering.value?.first_tick ?? 0
  const endTick = rendering.value?.end_tick ?? 1
  const now = { firstTick, endTick, width: Math.round(width.value) }
  const isSame = old?.firstTick === firstTick && old.endTick === endTick && old.width === now.width
  return isSame ? old : now
})
const barTicks = computed(() => rendering.value?.bar_ticks ?? 1)
const THREAD = 54
const {
  heights,
  middles,
  total,
  high,
  hold: holdRow,
} = useRows(
  stack,
  rows,
  () => piece.lanes.map(({ id }) => id).join(' '),
  () => chosen.first.value?.id ?? null,
)

watch(
  () => chosen.first.value?.id,
  (id) => rows.value?.find((row) => row.dataset['lane'] === id)?.scrollIntoView({ block: 'nearest' }),
  { flush: 'post' },
)

function holdLane(lane: Lane) {
  chosen.choose(lane.id)
  const gesture = newGesture('place')
  holdRow((place) => edits.reorder(lane, place, gesture))
}

// ---- Steps ----
const stroke = useStroke(edits.setSteps)
function press(lane: Lane, step: number, isHit: boolean) {
  chosen.touch(lane.id)
  const picture = pictures.value.get(lane.id)
  if (picture) stroke.press(lane, picture, step, isHit)
}
const chosenPicture = computed(() => pictures.value.get(chosen.first.value?.id ?? ''))
/** Which end of the step range lies at the left of the band. A lane that follows another has none of its own. */
const leftGrip = (lane: Lane) =>
  pictures.value.get(lane.id)?.follows ? null : lane.direction === 'backward' ? 'last' : 'first'

// ---- The pattern ----
function movePattern(word: Word, value: number | string, gesture: string) {
  piece.editPattern(`${word.name} → ${value}`, (pattern) => withValueAt(pattern, word.field, value), gesture)
}
function patchPattern(label: string, patch: Patch) {
  piece.editPattern(label, (pattern) => ({ ...pattern, ...patch }))
}
const askPattern = (setting: string, word: string) => engine.alternatives({ lane: null, setting, word })

// ---- Melody ----
const isKeysOpen = ref(false)
/** The lanes that the keyboard reaches, the first that was chosen first. */
const keyLanes = computed(() => {
  const first = chosen.first.value
  return first ? [first, ...chosen.chosen.value.filter((lane) => lane !== first)] : []
})
const heldByLanes = computed(() => keyLanes.value.flatMap(({ id }) => pictures.value.get(id)?.held ?? []))
const isMelodic = computed(() => rendering.value?.lanes.some(({ staff }) => staff) ?? false)
/** Where a lane's bead of a pitch lies. */
function placeOf(laneId: string, pitch: number): number | undefined {
  const [middle, height] = [middles.value.get(laneId), heights.value.get(laneId) ?? 0]
  const staff = pictures.value.get(laneId)?.staff
  return staff && middle !== undefined ? middle - height / 2 + yOfPitch(pitch, staff, height) : middle
}
/** Pitches that were drawn on the thread: where the strip has a length of its own they do not belong to steps. */
function setPitches(lane: Lane, values: ReadonlyMap<number, number>, gesture: string) {
  chosen.touch(lane.id)
  if (lane.pitch_strip?.free)
    notices.complain(`The pitch strip of ${lane.name} has a length of its own: paint it on the bench.`)
  else edits.setValues(lane, { name: 'pitch', path: 'pitch_strip', is_free: false }, values, gesture)
}
const changeProgression = (label: string, progression: Progression | null, gesture: string | null) =>
  piece.editPattern(label, (pattern) => ({ ...pattern, progression }), gesture)

const allOr = (lane: Lane) => (chosen.isChosen(lane.id) ? chosen.chosen.value : [lane])
const mute = (lane: Lane, isMuted: boolean) => allOr(lane).forEach(({ id }) => playing.mute(id, isMuted))
const solo = (lane: Lane, isSolo: boolean) => allOr(lane).forEach(({ id }) => playing.solo(id, isSolo))
/** The lane that has just been added: its voice opens for choosing. */
const added = ref('')
async function addLane() {
  added.value = edits.add()
  chosen.choose(added.value)
  await nextTick()
  added.value = '' // brought back by redoing it is no new one
}
/** The keyboard lies over the bench: where it does, the bench comes back. */
function toggleBench() {
  isBenchOpen.value = isKeysOpen.value || !isBenchOpen.value
  isKeysOpen.value = false
}
useLatticeKeys({
  chosen, edits, view, isBenchOpen, benchSize, isKeysOpen, stretch, paste, addLane, picture: (id) => pictures.value.get(id), mute, solo,
}) // prettier-ignore

// ---- Sound files, dropped wherever on the lattice ----
const soundFiles = useSoundFiles()
const isDropping = ref(false)
useEventListener(window, 'dragover', (event: DragEvent) => {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault() // else the browser would open them
  isDropping.value = true
})
useEventListener(window, 'dragleave', (event: DragEvent) => {
  if (!event.relatedTarget) isDropping.value = false
})
useEventListener(window, 'drop', (event: DragEvent) => {
  isDropping.value = false
  const files = [...(event.dataTransfer?.files ?? [])]
  if (!files.length) return
  event.preventDefault()
  void soundFiles.take(files)
})

// ---- Values of every step, in place of beads ----
function setShownValues(lane: Lane, values: ReadonlyMap<number, number>, gesture: string) {
  const property = rendering.value?.property
  if (!property) return
  const { name, path } = property
  chosen.touch(lane.id)
  // A strip of its own length does not belong to steps: it is painted on the bench.
  const isFree = valueAt(lane, `${path}.free`)
  if (isFree)
    notices.complain(`The ${name} strip of ${lane.name} has a length of its own: paint it on the bench.`)
  else {
    const on = pictures.value.get(lane.id)?.painted_on ?? undefined
    edits.setValues(lane, { name, path, is_free: false }, values, gesture, on)
  }
}

// ---- The step that plays in the chosen lane ----
const nowStep = ref(-1)
function followStep(tick: number) {
  const starts = chosenPicture.value?.starts
  if (!starts || !playing.isPlaying) nowStep.value = -1
  else nowStep.value = starts.findLastIndex((start) => start <= tick)
}
function followMusic(tick: number) {
  // A menu that is open stays where it is: the page turns once the hand has closed it.
  if (!document.querySelector('.v-overlay--active .card')) view.follow(barOf(tick, barTicks.value))
  followStep(tick)
}
function chooseStretch(lane: Lane, firstTick: number, endTick: number) {
  if (!chosen.isChosen(lane.id)) chosen.choose(lane.id)
  stretch.choose(lane, firstTick, endTick)
}
watch(
  () => playing.isPlaying,
  (plays) => plays || (nowStep.value = -1),
)

useEventListener(
  stack,
  'wheel',
  (event: WheelEvent) => {
    if (!event.shiftKey && !event.ctrlKey) return
    event.preventDefault()
    const by = Math.sign(event.deltaY || event.deltaX)
    if (event.ctrlKey) view.show(view.bars.value + by)
    else view.scroll(by)
  },
  { passive: false },
)

const labelOf = (lane: Lane) => {
  const picture = pictures.value.get(lane.id)
  return picture
    ? `Thread of ${lane.name}: hits on steps ${picture.cycle_hits.map((hit) => hit + 1).join(', ') || 'none'} of ${picture.steps}`
    : ''
}
/** Asks for a lane's alternatives: the same function for as long as there is the lane. */
const askOf = (() => {
  const known = new Map<string, (setting: string, word: string) => Promise<Alternative[]>>()
  return (laneId: string) => {
    const ask = known.get(laneId) ?? ((setting: string, word: string) => edits.ask(laneId, setting, word))
    known.set(laneId, ask)
    return ask
  }
})()
const handlersOf = (lane: Lane) => ({
  move: (word: Word, value: number | string, gesture: string, isTyped: boolean) =>
    edits.move(lane, word, value, gesture, isTyped),
  choose: (setting: string, word: string, alternative: Alternative) =>
    edits.choose(lane, setting, word, alternative),
  patch: (label: string, patch: Patch) => edits.patch(lane, label, patch),
  cancel: piece.takeBack,
})
</script>

<template>
  <main
    v-if="piece.document && rendering"
    class="lattice"
    :class="{ dropping: isDropping }"
    :data-answered="answered"
  >
    <div class="corner">
      <div class="counts">
        <span class="named">{{ piece.lanes.length }} {{ piece.lanes.length === 1 ? 'lane' : 'lanes' }}</span>
        <span class="steps">
          steps of
          <SentenceLine
            owner="Pattern"
            :parts="standing('step value')"
            :target="piece.pattern ?? {}"
            :ask="askPattern"
            @move="movePattern"
            @choose="(_setting, _word, { text, patch }) => patchPattern(text, patch)"
            @cancel="piece.takeBack"
          />
          · length
          <SentenceLine
            owner="Pattern"
            :parts="standing('bars')"
            :target="piece.pattern ?? {}"
            :ask="askPattern"
            @move="movePattern"
            @cancel="piece.takeBack"
          />
        </span>
      </div>
      <div
        class="meeting"
        :class="{ chosen: chosen.chosen.value.length > 1 }"
        data-test="meeting"
        aria-live="polite"
      >
        {{ rendering.meeting?.says }}
      </div>
    </div>
    <div class="ruler-row">
      <Ruler
        v-if="scale.width"
        :bar-ticks="barTicks"
        :beat-ticks="rendering.beat_ticks"
        :scale="scale"
        :meetings="rendering.meeting?.at ?? []"
        :is-of-chosen="chosen.chosen.value.length > 1"
        @play-from="playing.play"
      />
    </div>

    <div v-if="isMelodic || rendering.chords.length" class="progression-row">
      <ProgressionRow
        v-if="piece.pattern"
        :progression="piece.pattern.progression ?? null"
        :chords="rendering.chords"
        :scale-chords="rendering.scale_chords"
        :says="rendering.progression"
        :scale="scale"
        :meter="piece.pattern.meter"
        :in-scale="piece.pattern.scale ?? piece.document.scale"
        @change="changeProgression"
      >
        <ScaleWords
          class="whole"
          :parts="standing('scale')"
          :ask="askPattern"
          :is-own="Boolean(piece.pattern.scale)"
        />
      </ProgressionRow>
    </div>

    <div class="lanes">
      <div ref="stack" class="stack">
        <div ref="threads" class="over-threads">
          <Weft :bar-ticks="barTicks" :beat-ticks="rendering.beat_ticks" :scale="scale" />
        </div>
        <div
          v-for="lane in piece.lanes"
          :key="lane.id"
          ref="rows"
          class="row"
          :class="{
            chosen: chosen.isChosen(lane.id),
            high: lane.id === high,
            melodic: pictures.get(lane.id)?.staff,
          }"
          :data-lane="lane.id"
        >
          <LaneHead
            :lane="lane"
            :picture="pictures.get(lane.id)"
            :voices="voices"
            :is-chosen="chosen.isChosen(lane.id)"
            :is-new="lane.id === added"
            :is-high="lane.id === high"
            :bar-ticks="barTicks"
            :ask="askOf(lane.id)"
            v-on="handlersOf(lane)"
            @touch="(event) => chosen.touch(lane.id, event)"
            @focused="chosen.isChosen(lane.id) || chosen.choose(lane.id)"
            @grip="holdLane(lane)"
            @mute="(isMuted) => mute(lane, isMuted)"
            @solo="(isSolo) => solo(lane, isSolo)"
            @sing="(voice) => playing.trySinging(voice, lane)"
            @listen="(voice) => playing.tryVoice(voice, { level: lane.level_db, pan: lane.pan })"
            @copy="chosen.choose(edits.copy(lane))"
            @remove="edits.remove(lane)"
          />
          <div class="thread-place">
            <LaneThread
              v-if="scale.width && pictures.get(lane.id)"
              :picture="pictures.get(lane.id)!"
              :scale="scale"
              :height="heights.get(lane.id) ?? THREAD"
              :ink="inkOf(lane.ink)"
              :label="labelOf(lane)"
              :cursor="lane.id === chosen.first.value?.id ? chosen.cursor.value : null"
              :left-grip="leftGrip(lane)"
              :property="rendering.property ?? null"
              :stretch="stretch.of(lane.id)"
              :is-of-scale="lane.pitch_strip?.unit !== 'semitones'"
              @pitches="(values, gesture) => setPitches(lane, values, gesture)"
              @press="(step, isHit) => press(lane, step, isHit)"
              @paint="(step, isHit) => stroke.paint(lane, step, isHit)"
              @release="stroke.release"
              @range="(grip, by, gesture) => edits.moveRange(lane, grip, by, gesture)"
              @values="(values, gesture) => setShownValues(lane, values, gesture)"
              @stretch="(firstTick, endTick) => chooseStretch(lane, firstTick, endTick)"
            />
          </div>
        </div>
        <Playhead
          class="head-over-threads"
          :player="playing.player"
          :is-playing="playing.isPlaying"
          :pattern-id="piece.pattern?.id ?? ''"
          :scale="scale"
          :place-of="placeOf"
          :height="total"
          :step-ticks="stepTicks"
          :lights="!rendering.property"
          @at="followMusic"
        />
      </div>
      <div v-if="piece.lanes.length === 0" class="empty">
        <p>No lane yet. Add one: it begins as 3 in 8, and its sentence says what to turn.</p>
        <button type="button" class="word-button strong" @click="addLane">Add a lane</button>
      </div>
    </div>
    <KeptBar />
    <ViewBar
      :view="view"
      :is-bench-open="isBenchOpen && !isKeysOpen"
      :is-keys-open="isKeysOpen"
      :lane="chosen.first.value"
      @add="addLane"
      @bench="toggleBench"
      @keys="isKeysOpen = !isKeysOpen"
    >
      <StretchBar
        v-if="stretch.chosen.value"
        :stretch="stretch"
        :can-paste="stretch.copied.value.length > 0"
        @paste="paste"
      />
    </ViewBar>
    <KeysPanel
      v-if="isKeysOpen && chosen.first.value"
      v-model:cursor="chosen.cursor.value"
      :lane="chosen.first.value"
      :lanes="keyLanes"
      :held-by-lanes="heldByLanes"
      :picture="chosenPicture"
      :bench="benches.get(chosen.first.value.id)"
      :names="rendering.pitch_names"
      :scale-notes="rendering.scale_notes"
      @patch="(label, patch) => edits.patch(chosen.first.value!, label, patch)"
      @close="isKeysOpen = false"
    />
    <Bench
      v-else-if="isBenchOpen && chosen.first.value"
      v-model:size="benchSize"
      :is-melodic="isMelodic || rendering.chords.length > 0"
      :lane="chosen.first.value"
      :count="chosen.chosen.value.length"
      :bench="benches.get(chosen.first.value.id)"
      :picture="chosenPicture"
      :bar-ticks="barTicks"
      :ask="askOf(chosen.first.value.id)"
      :first-tick="rendering.first_tick"
      :end-tick="rendering.end_tick"
      :now-step="nowStep"
      v-on="handlersOf(chosen.first.value)"
      @paint="(strip, values, gesture) => edits.setValues(chosen.first.value!, strip, values, gesture)"
      @resize="(strip, length, gesture) => edits.resizeStrip(chosen.first.value!, strip, length, gesture)"
      @act="(strip, action) => edits.actOnStrip(chosen.first.value!, strip, action)"
      @control="(controller) => edits.addControl(chosen.first.value!, controller)"
      @rate="(place, gesture) => edits.setRate(chosen.first.value!, place, gesture)"
      @throw-lane="(percent) => edits.throwLane(chosen.first.value!, percent)"
      @throw-all="edits.throwAll"
      @contour="(asked) => edits.drawContour(chosen.first.value!, asked)"
      @fold="isBenchOpen = false"
    />
  </main>
  <main v-else class="waiting" aria-busy="true">Fetching the piece …</main>
</template>

<style scoped src="./lattice.css"></style>

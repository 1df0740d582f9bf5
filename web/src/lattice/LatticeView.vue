<script setup lang="ts">
/** The lattice: every lane a sentence and a thread, the chosen one whole on the bench. */
import { useElementSize, useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import type { Lane, Progression } from '@/api/client'
import { isWaiting } from '@/api/policy'
import DetourRow from '@/around/DetourRow.vue'
import { useDetourKeys } from '@/around/useDetourKeys'
import { useDetours } from '@/around/useDetours'
import Bench from '@/bench/Bench.vue'
import type { BenchSize } from '@/bench/sizes'
import { useLastDrawn } from '@/engine/useLastDrawn'
import { useRendering } from '@/engine/useRendering'
import { useView } from '@/engine/useView'
import { useChosenLanes } from '@/hands/useChosenLanes'
import { provideHands } from '@/hands/useHands'
import { patternWords, provideWords } from '@/hands/words'
import KeysPanel from '@/keyboard/KeysPanel.vue'
import DroppedSounds from '@/kit/DroppedSounds.vue'
import { useDroppedFiles } from '@/kit/useDroppedFiles'
import { newGesture } from '@/page/gesture'
import { useNotices } from '@/page/notices'
import { prepareAudio } from '@/playing/audio'
import { usePlaying } from '@/playing/playing'
import ProgressionRow from '@/progression/ProgressionRow.vue'
import SentenceLine from '@/sentence/SentenceLine.vue'
import { inkOf } from '@/theme/inks'
import { usePiece } from '@/work/piece'
import EmptyPattern from '@/starters/EmptyPattern.vue'
import type { TimeScale } from './geometry/scale'
import { yOfPitch } from './geometry/staff'
import KeptBar from './KeptBar.vue'
import LaneHead from './LaneHead.vue'
import MovementRow from './MovementRow.vue'
import OwnDetours from './OwnDetours.vue'
import Playhead from './Playhead.vue'
import Readout from './Readout.vue'
import Ruler from './Ruler.vue'
import ScaleWords from './ScaleWords.vue'
import StretchBar from './StretchBar.vue'
import LaneThread from './thread/LaneThread.vue'
import { useFollowing } from './useFollowing'
import { useLatticeKeys } from './useLatticeKeys'
import { useRows } from './useRows'
import ViewBar from './ViewBar.vue'
import BarLines from './BarLines.vue'

const props = defineProps<{ id: number }>()
const piece = usePiece()
const playing = usePlaying()
const notices = useNotices()
const router = useRouter()

const view = useView()
const isBenchOpen = useLocalStorage('jolly-lattice-bench', true)
const benchSize = useLocalStorage<BenchSize>('jolly-lattice-bench-size', 'medium')
const chosen = useChosenLanes(() => piece.lanes)
const question = computed(() =>
  piece.score
    ? {
        score: piece.score,
        dice: piece.dice,
        row: piece.row,
        window: view.window,
        chosen: chosen.chosen.value.map(({ id }) => id),
        shown: view.property,
      }
    : null,
)
const { drawnBefore, keepDrawn } = useLastDrawn('lattice')
const { rendering, answered } = useRendering(question, drawnBefore)
keepDrawn(rendering)
const voices = computed(() => piece.document?.kit.voices ?? [])
const stepTicks = computed(
  () => new Map(rendering.value?.lanes.map(({ id, step_ticks }) => [id, step_ticks])),
)
const standing = (...names: string[]) =>
  rendering.value?.standing.filter(({ setting }) => names.includes(setting)) ?? []

const hands = provideHands(chosen, rendering)
const { edits, stretch, pictures, benches } = hands
provideWords(patternWords())

watch(
  () => props.id,
  async (id) => {
    try {
      await piece.open(id)
      if (props.id !== id) return
      view.begin()
      prepareAudio()
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

// ---- Where things lie ----
const threads = useTemplateRef<HTMLElement>('threads')
const stack = useTemplateRef<HTMLElement>('stack')
const rows = useTemplateRef<HTMLElement[]>('rows')
const { width } = useElementSize(threads)
// The same object while it says the same: threads are drawn again where it changes.
const scale = computed<TimeScale>((old) => {
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
  (id) =>
    piece.isEmpty ||
    rows.value?.find((row) => row.dataset['lane'] === id)?.scrollIntoView({ block: 'nearest' }),
  { flush: 'post' },
)

function holdLane(lane: Lane) {
  chosen.choose(lane.id)
  const gesture = newGesture('place')
  holdRow((place) => edits.reorder(lane, place, gesture))
}

const chosenPicture = computed(() => pictures.value.get(chosen.first.value?.id ?? ''))

// ---- Melody ----
const changeProgression = (label: string, progression: Progression | null, gesture: string | null) =>
  piece.editPattern(label, (pattern) => ({ ...pattern, progression }), gesture)
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
  hands,
  view,
  isBenchOpen,
  benchSize,
  isKeysOpen,
  addLane: () => void addLane(),
  openField: () => void router.push(`/field/${props.id}`),
  openOrder: () => void router.push(`/order/${props.id}`),
  openPerform: () => void router.push(`/perform/${props.id}`),
})
const detours = useDetours()
useDetourKeys()
const { isDropping, dropped } = useDroppedFiles()

const { nowStep, follow } = useFollowing(
  view,
  () => chosenPicture.value,
  () => barTicks.value,
  () => stretch.chosen.value !== null,
)

useEventListener(
  stack,
  'wheel',
  (event: WheelEvent) => {
    if (!event.shiftKey && !event.ctrlKey) return
    event.preventDefault()
    const by = Math.sign(event.deltaY || event.deltaX)
    if (event.ctrlKey) view.zoom(by)
    else view.scroll(by)
  },
  { passive: false },
)
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
          <SentenceLine owner="Pattern" :parts="standing('step value')" />
          · length
          <SentenceLine owner="Pattern" :parts="standing('bars')" />
        </span>
        <RouterLink
          v-tip="'Big controls and pads, for hands (C)'"
          :to="`/perform/${props.id}`"
          class="word-button perform"
          >Perform</RouterLink
        >
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
        :away="rendering.away ?? []"
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
        <ScaleWords class="whole" :parts="standing('scale')" :is-own="Boolean(piece.pattern.scale)" />
      </ProgressionRow>
    </div>

    <div class="lanes">
      <EmptyPattern v-if="piece.isEmpty" @add="addLane" />
      <div ref="stack" class="stack" :aria-busy="(rendering.property?.name ?? null) !== view.property">
        <div ref="threads" class="over-threads">
          <BarLines :bar-ticks="barTicks" :beat-ticks="rendering.beat_ticks" :scale="scale" />
        </div>
        <template v-for="(lane, place) in piece.lanes" :key="lane.id">
          <div
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
              :place="place"
              :picture="pictures.get(lane.id)"
              :voices="voices"
              :is-chosen="chosen.isChosen(lane.id)"
              :is-new="lane.id === added"
              :is-high="lane.id === high"
              :bar-ticks="barTicks"
              @grip="holdLane"
            />
            <div class="thread-place">
              <LaneThread
                v-if="scale.width && pictures.get(lane.id)"
                :lane="lane"
                :picture="pictures.get(lane.id)!"
                :scale="scale"
                :height="heights.get(lane.id) ?? THREAD"
                :ink="inkOf(lane.ink)"
                :cursor="lane.id === chosen.first.value?.id ? chosen.cursor.value : null"
                :property="rendering.property ?? null"
                :stretch="stretch.of(lane.id)"
                :away="rendering.away ?? []"
              />
            </div>
          </div>
          <MovementRow
            v-if="lane.id === high && scale.width && pictures.get(lane.id)?.movements.length"
            :lane="lane"
            :picture="pictures.get(lane.id)!"
            :scale="scale"
            :ink="inkOf(lane.ink)"
          />
        </template>
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
          @at="follow"
        />
      </div>
    </div>
    <Readout :lane="chosen.first.value" :picture="chosenPicture" :cursor="chosen.cursor.value" />
    <DroppedSounds v-model="dropped" />
    <KeptBar />
    <OwnDetours :parts="rendering.standing" />
    <DetourRow
      v-if="detours.isRowOpen"
      class="detour-row"
      :lanes="chosen.chosen.value.map(({ id }) => id)"
      @close="detours.isRowOpen = false"
    />
    <ViewBar
      :is-bench-open="isBenchOpen && !isKeysOpen"
      :is-keys-open="isKeysOpen"
      :is-detours-open="detours.isRowOpen"
      :lane="chosen.first.value"
      @detours="detours.isRowOpen = !detours.isRowOpen"
      @add="addLane"
      @bench="toggleBench"
      @keys="isKeysOpen = !isKeysOpen"
    >
      <StretchBar v-if="stretch.chosen.value" />
    </ViewBar>
    <KeysPanel
      v-if="isKeysOpen && chosen.first.value"
      v-model:cursor="chosen.cursor.value"
      :lane="chosen.first.value"
      :lanes="keyLanes"
      :held-by-lanes="heldByLanes"
      :picture="chosenPicture"
      :bench="benches.get(chosen.first.value.id)"
      :in-scale="piece.pattern?.scale ?? piece.document.scale"
      @close="isKeysOpen = false"
    />
    <Bench
      v-else-if="isBenchOpen && chosen.first.value && !piece.isEmpty"
      v-model:size="benchSize"
      :is-melodic="isMelodic || rendering.chords.length > 0"
      :lane="chosen.first.value"
      :count="chosen.chosen.value.length"
      :bench="benches.get(chosen.first.value.id)"
      :picture="chosenPicture"
      :bar-ticks="barTicks"
      :first-tick="rendering.first_tick"
      :end-tick="rendering.end_tick"
      :now-step="nowStep"
      @fold="isBenchOpen = false"
    />
  </main>
  <main v-else class="waiting" aria-busy="true">Fetching the piece …</main>
</template>

<style scoped src="./lattice.css"></style>

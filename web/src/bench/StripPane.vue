<script setup lang="ts">
/** A lane's strips: one large, to paint over; the others small, to choose from. */
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'

import { SetControls } from '@/api/limits.json'
import type { Lane, LanePicture, Part, StripPicture } from '@/api/client'
import { useHands } from '@/hands/useHands'
import PartWords from '@/sentence/PartWords.vue'
import { shareAt } from '@/lattice/geometry/scale'
import { controllerName, NAMED_CONTROLLERS } from '@/sound/neutral'
import { inkOf } from '@/theme/inks'
import StripBars from './StripBars.vue'
import ContourBar from './ContourBar.vue'
import StripThrow from './StripThrow.vue'

const props = defineProps<{
  lane: Lane
  strips: readonly StripPicture[]
  picture: LanePicture
  barTicks: number
  /** The stretch of time in view, in ticks. */
  firstTick: number
  endTick: number
  /** Index of the step that plays, among those in view; -1 while none does. */
  nowStep: number
  /** What its controllers move, in MIDI. */
  channel: string
}>()
const { strips: hands } = useHands()

const isControl = ({ path }: StripPicture) => path.startsWith('control_strips')
const chosenName = useLocalStorage('jolly-lattice-strip', 'velocity')
const strip = computed(() => props.strips.find(({ name }) => name === chosenName.value) ?? props.strips[0])
const part = computed<Part | null>(() => {
  if (!strip.value) return null
  // The table has one row for all control strips.
  const setting = isControl(strip.value) ? 'control' : strip.value.name
  return { setting, explains: strip.value.explains, red: false, words: strip.value.words, plain: null }
})

/** Which value of a strip a step in view has. */
const placeOf = (one: StripPicture, step: number): number | null =>
  (one.is_free ? one.places[step] : props.picture.numbers[step]) ?? null
const now = computed(() => (strip.value && props.nowStep >= 0 ? placeOf(strip.value, props.nowStep) : null))

/** A small picture of a strip: its values as a row of bars. */
function small({ values, low, high }: StripPicture): string {
  const width = 60 / values.length
  const ground = low < 0 ? -low / (high - low) : 0
  return values
    .map((value, at) => {
      const share = (value - low) / (high - low)
      const [from, to] = [Math.min(share, ground), Math.max(share, ground)]
      return `M${at * width} ${14 - 14 * to}h${Math.max(0.6, width - 0.8)}V${14.6 - 14 * from}h${-Math.max(0.6, width - 0.8)}Z`
    })
    .join('')
}

/** Where in view the strip begins again, and where the lane's cycle does: how they drift, in % of the width. */
const drift = computed(() => {
  const one = strip.value
  if (!one?.is_free) return null
  const scale = { firstTick: props.firstTick, endTick: props.endTick }
  const at = (tick: number) => 100 * shareAt(tick, scale)
  const begins = one.places.flatMap((place, step) =>
    place === 0 && one.places[step - 1] !== 0 ? at(props.picture.starts[step] ?? 0) : [],
  )
  const here = props.nowStep >= 0 ? at(props.picture.starts[props.nowStep] ?? 0) : null
  return { begins, cycles: props.picture.cycle_starts.map(at), here }
})

const cursor = ref(0)
const newControl = ref(74)
function addControl(controller = newControl.value) {
  chosenName.value = controllerName(controller)
  void hands.addControl(props.lane, controller)
}
const hasStrip = (controller: number) => props.strips.some(({ name }) => name === controllerName(controller))
const taken = computed(() => hasStrip(newControl.value))
</script>

<template>
  <div v-if="strip && part" class="strips">
    <div class="tabs">
      <div class="tab-row" role="tablist" aria-label="Strips">
        <button
          v-for="one in strips"
          :key="one.name"
          type="button"
          role="tab"
          class="tab"
          :class="{ plain: one.is_plain }"
          :aria-selected="one.name === strip.name"
          @click="chosenName = one.name"
        >
          <span>{{ one.name }}</span>
          <svg
            class="inked"
            viewBox="0 0 60 15"
            preserveAspectRatio="none"
            :style="{ color: inkOf(lane.ink) }"
          >
            <path :d="small(one)" fill="currentColor" />
          </svg>
        </button>
      </div>
      <button
        v-tip="'A strip that sends a MIDI controller with each step'"
        type="button"
        class="quiet-button more"
        aria-haspopup="dialog"
      >
        + control
        <v-menu activator="parent" :close-on-content-click="false">
          <div role="dialog" aria-label="A strip of a controller">
            <form class="card controller" @submit.prevent="addControl()">
              <div class="named-controls" role="group" aria-label="What sounds answer to">
                <button
                  v-for="controller in NAMED_CONTROLLERS"
                  :key="controller"
                  type="button"
                  class="word-button"
                  :disabled="hasStrip(controller)"
                  @click="addControl(controller)"
                >
                  {{ controllerName(controller) }}
                </button>
              </div>
              <label>
                or MIDI controller
                <input v-model.number="newControl" type="number" v-bind="SetControls.controller" />
              </label>
              <button
                type="submit"
                class="word-button strong"
                :disabled="taken || !(newControl >= 0 && newControl < 120)"
              >
                Add a strip
              </button>
              <p class="channel">{{ channel }}</p>
            </form>
          </div>
        </v-menu>
      </button>
    </div>
    <div class="large">
      <StripBars
        v-model:cursor="cursor"
        :strip="strip"
        :label="`${lane.name}: ${strip.name} of each ${strip.is_free ? 'value' : 'step'}`"
        :ink="inkOf(lane.ink)"
        :hits="picture.cycle_hits"
        :now="now"
        @paint="(values, gesture) => strip && hands.setValues(lane, strip, values, gesture)"
        @resize="(length, gesture) => strip && hands.resizeStrip(lane, strip, length, gesture)"
        @act="(action) => strip && hands.actOnStrip(lane, strip, action)"
      />
    </div>
    <svg v-if="drift" class="drift inked" :style="{ color: inkOf(lane.ink) }" aria-hidden="true">
      <line x1="0" x2="100%" y1="6" y2="6" />
      <line
        v-for="x in drift.cycles"
        :key="`c${x}`"
        class="cycle"
        :x1="`${x}%`"
        :x2="`${x}%`"
        y1="0"
        y2="6"
      />
      <line
        v-for="x in drift.begins"
        :key="`s${x}`"
        class="begin"
        :x1="`${x}%`"
        :x2="`${x}%`"
        y1="6"
        y2="12"
      />
      <circle v-if="drift.here !== null" :cx="`${drift.here}%`" cy="6" r="4" />
    </svg>
    <ContourBar
      v-if="strip.name === 'pitch'"
      :owner="lane.name"
      :strip="strip"
      @draw="(asked) => hands.drawContour(lane, asked)"
    />
    <div class="set">
      <PartWords :part="part" :owner="`${lane.name} strip`" :ink="lane.ink" :bar-ticks="barTicks" />
      <StripThrow
        :strip="strip"
        :cursor="cursor"
        :owner="lane.name"
        @act="(action) => strip && hands.actOnStrip(lane, strip, action)"
      />
    </div>
  </div>
</template>

<style scoped>
.tab-row {
  display: contents;
}
.named-controls {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  max-width: 420px;
  margin-bottom: 10px;
}
.strips {
  min-width: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto 1fr;
  grid-auto-rows: auto;
  gap: 4px;
}
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  align-items: end;
}
.tab {
  padding: 0 7px 2px;
  min-height: 36px;
  display: grid;
  align-content: end;
  gap: 2px;
  font: 600 14px/1.1 var(--text-font);
  text-align: left;
  border-bottom: 3px solid transparent;
  border-radius: 6px 6px 0 0;
  cursor: pointer;
}
.tab:hover {
  background: color-mix(in srgb, var(--rule) 45%, transparent);
}
.tab.plain {
  color: var(--soft-ink);
  font-weight: 450;
}
.tab.plain svg {
  opacity: 0.3;
}
.tab[aria-selected='true'] {
  border-color: var(--lane-ink);
  color: var(--ink);
}
.tab svg {
  width: 60px;
  height: 14px;
}
.more {
  margin-left: 4px;
}
.controller {
  padding: 14px;
  display: flex;
  flex-wrap: wrap;
  width: 470px;
  gap: 12px;
  align-items: end;
}
.controller label {
  display: grid;
  gap: 4px;
  font-size: 13px;
  color: var(--soft-ink);
}
.controller .channel {
  max-width: 240px;
  font-size: 14px;
}
.controller input {
  width: 90px;
  height: 34px;
  padding: 0 10px;
  border: 1.5px solid var(--rule);
  border-radius: 8px;
  color: var(--ink);
  font-size: 15px;
}
.large {
  min-height: 62px;
}
.drift {
  width: calc(100% - 34px);
  height: 12px;
  overflow: visible;
}
.drift line {
  stroke: currentColor;
  opacity: 0.35;
}
.drift .cycle {
  stroke-width: 3;
  opacity: 0.6;
}
.drift .begin {
  stroke-width: 3;
  stroke: var(--ink);
  opacity: 1;
}
.drift circle {
  fill: var(--act);
}
.set {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  align-items: baseline;
  justify-content: space-between;
  font-size: 14px;
  color: var(--soft-ink);
}
</style>

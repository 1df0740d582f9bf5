<script setup lang="ts">
/** The bench: the chosen lane whole. Every setting a labelled field, its steps' chances to paint, its measures, throws. */
import { computed } from 'vue'

import type { Alternative, Bench, Lane, LanePicture, StripPicture, Word } from '@/api/client'
import PartWords from '@/lattice/sentence/PartWords.vue'
import type { Patch } from '@/stores/document'
import { usePiece } from '@/stores/piece'
import { inkOf } from '@/theme/inks'
import RateHand from './RateHand.vue'
import StripPane from './StripPane.vue'
import type { ContourNeeds, StripAction } from './strips'
import ThrowControl from './ThrowControl.vue'
import { useMeasures } from './useMeasures'

const props = defineProps<{
  lane: Lane
  /** How many lanes are set together. */
  count: number
  bench: Bench | undefined
  picture: LanePicture | undefined
  barTicks: number
  /** The stretch of time in view, in ticks; and the step of the lane that plays there, -1 while none does. */
  firstTick: number
  endTick: number
  nowStep: number
  ask: (setting: string, word: string) => Promise<Alternative[]>
}>()
const emit = defineEmits<{
  move: [word: Word, value: number | string, gesture: string, isTyped: boolean]
  choose: [setting: string, word: string, alternative: Alternative]
  patch: [label: string, patch: Patch]
  cancel: [gesture: string]
  paint: [strip: StripPicture, values: ReadonlyMap<number, number | null>, gesture: string]
  resize: [strip: StripPicture, length: number, gesture: string]
  act: [strip: StripPicture, action: StripAction]
  control: [controller: number]
  rate: [place: number, gesture: string]
  throwLane: [percent: number]
  throwAll: [percent: number]
  contour: [asked: ContourNeeds]
  fold: []
}>()

/** What hands do to words is handed on as it is. */
const hands = {
  move: (word: Word, value: number | string, gesture: string, isTyped: boolean) =>
    emit('move', word, value, gesture, isTyped),
  choose: (setting: string, word: string, one: Alternative) => emit('choose', setting, word, one),
  patch: (label: string, fields: Patch) => emit('patch', label, fields),
  cancel: (gesture: string) => emit('cancel', gesture),
}

const piece = usePiece()
const measures = useMeasures(() => props.lane.id)
const voice = computed(() => piece.document?.kit.voices.find(({ id }) => id === props.lane.voice))
/** It stands beside the step, for the other finger of the same hand. */
const WEIGHT = 'beat weight'
/** What concerns feel and sound stands below the lane's name; what makes its notes beside the strips. */
const SOUND = new Set([
  'swing', 'humanise', 'brightness', 'attack', 'release', 'level', 'pan', 'channel', 'note', 'anchor',
]) // prettier-ignore
const acting = computed(
  () => props.bench?.fields.filter(({ setting }) => setting !== WEIGHT && !SOUND.has(setting)) ?? [],
)
const sounding = computed(() => props.bench?.fields.filter(({ setting }) => SOUND.has(setting)) ?? [])
const weight = computed(() => props.bench?.fields.find(({ setting }) => setting === WEIGHT))
/** The notes and channel that go out: the lane's own, or the kit's. */
const pitchedName = computed(() =>
  props.lane.voice.replace(/-/g, ' ').replace(/^./, (first) => first.toUpperCase()),
)
const note = computed(() => props.lane.note ?? voice.value?.pitch)
const channel = computed(() => props.lane.channel ?? piece.document?.kit.channel)
const share = (value: number) => `${Math.round(100 * value)} %`
const told = computed(() =>
  measures.value
    ? [
        ['hits a bar', measures.value.hits_a_bar.toFixed(measures.value.hits_a_bar % 1 ? 1 : 0), 'Hits in a bar, before chance'],
        ['syncopation', share(measures.value.syncopation), 'How much stronger places of the bar pass by while a note before them is held'],
        ['evenness', share(measures.value.evenness), 'How evenly its hits are spread round the cycle'],
        ['moved', share(measures.value.distance), 'Share of this lane’s steps that differ from when the piece was opened'],
        ['all moved', share(measures.value.pattern_distance), 'Share of the whole pattern’s steps that differ from when the piece was opened'],
      ] as const
    : [],
) // prettier-ignore
</script>

<template>
  <section class="bench" :aria-label="`Bench of ${lane.name}`" :style="{ '--lane-ink': inkOf(lane.ink) }">
    <div class="who">
      <div>
        <span class="named">{{ lane.name }}</span>
        <span v-if="count > 1" class="together">and {{ count - 1 }} more, set together</span>
        <span v-else class="where"
          ><template v-if="picture?.staff"
            >{{ pitchedName }}, note
            {{ picture.staff.names[picture.staff.note - picture.staff.low] }}</template
          ><template v-else
            >{{ voice?.name }} of {{ piece.document?.kit.name }}, note {{ note }}, channel
            {{ channel }}</template
          ></span
        >
      </div>
      <div v-if="bench?.rates.length" class="hand">
        <RateHand
          :name="lane.name"
          :rates="bench.rates"
          :rate="bench.rate"
          @rate="(place, gesture) => emit('rate', place, gesture)"
        />
        <span v-if="weight" class="weight"
          >{{ weight.label }}
          <PartWords
            :part="weight"
            :owner="`${lane.name} on the bench`"
            :target="lane"
            :ink="lane.ink"
            :bar-ticks="barTicks"
            :ask="ask"
            v-on="hands"
        /></span>
      </div>
      <dl class="measures" aria-label="Measures">
        <div v-for="[name, value, explains] in told" :key="name" v-tip="explains">
          <dt>{{ name }}</dt>
          <dd>{{ value }}</dd>
        </div>
      </dl>
      <div
        v-if="bench"
        v-tip="'After how long all that it plays is the same again, before chance'"
        class="round"
      >
        <template v-if="bench.pool">{{ bench.pool }}; all </template>
        <b>{{ bench.comes_round_after }}</b>
        <button
          v-if="bench.fits"
          v-tip="'The notes begin again with each cycle of the lane'"
          type="button"
          class="word-button"
          @click="emit('patch', 'its notes begin with each cycle', bench.fits)"
        >
          make it fit
        </button>
      </div>
      <dl class="fields sound">
        <div v-for="field in sounding" :key="field.setting" class="field" :class="{ plain: field.is_plain }">
          <dt v-tip="field.explains">{{ field.label }}</dt>
          <dd>
            <PartWords
              :part="field"
              :owner="`${lane.name} on the bench`"
              :target="lane"
              :ink="lane.ink"
              :bar-ticks="barTicks"
              :ask="ask"
              v-on="hands"
            />
          </dd>
        </div>
      </dl>
      <ThrowControl
        :is-anchored="lane.anchored"
        :follows="picture?.follows !== null"
        @throw-lane="(percent) => emit('throwLane', percent)"
        @throw-all="(percent) => emit('throwAll', percent)"
      />
    </div>
    <div v-if="bench" class="whole">
      <dl class="fields">
        <div v-for="field in acting" :key="field.setting" class="field" :class="{ plain: field.is_plain }">
          <dt v-tip="field.explains">{{ field.label }}</dt>
          <dd>
            <PartWords
              :part="field"
              :owner="`${lane.name} on the bench`"
              :target="lane"
              :ink="lane.ink"
              :bar-ticks="barTicks"
              :ask="ask"
              v-on="hands"
            />
          </dd>
        </div>
      </dl>
      <StripPane
        v-if="picture"
        :lane="lane"
        :strips="bench.strips"
        :channel="bench.channel"
        :picture="picture"
        :bar-ticks="barTicks"
        :first-tick="firstTick"
        :end-tick="endTick"
        :now-step="nowStep"
        :ask="ask"
        v-on="hands"
        @paint="(strip, values, gesture) => emit('paint', strip, values, gesture)"
        @resize="(strip, length, gesture) => emit('resize', strip, length, gesture)"
        @act="(strip, action) => emit('act', strip, action)"
        @control="(controller) => emit('control', controller)"
        @contour="(asked) => emit('contour', asked)"
      />
    </div>
    <button
      v-tip="'Fold the bench (B)'"
      type="button"
      class="quiet-button fold"
      aria-label="Fold the bench"
      @click="emit('fold')"
    >
      fold
    </button>
  </section>
</template>

<style scoped>
.bench {
  grid-column: 1 / -1;
  grid-row: 6;
  max-height: 44vh; /* on a small screen lanes stay in view */
  overflow-y: auto;
  position: relative;
  display: grid;
  grid-template-columns: var(--head) 1fr;
  min-height: 220px;
  background: var(--card);
  border-top: 1.5px solid var(--ink);
  border-left: 8px solid var(--lane-ink);
}
.who {
  padding: 10px 14px 8px 16px;
  display: grid;
  align-content: start;
  gap: 4px;
  font-size: 14px;
  color: var(--soft-ink);
}
.who .named {
  font-size: 19px;
  color: var(--ink);
  margin-right: 8px;
}
.together {
  font-weight: 600;
  color: var(--act-text);
}
.measures {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
.measures div {
  display: grid;
}
.measures dt {
  font-size: 13px;
}
.measures dd {
  font: 650 16px/1.2 var(--name-font);
  color: var(--ink);
}
.whole {
  padding: 6px 16px 4px 10px;
  min-width: 0;
  display: grid;
  grid-template-rows: auto 1fr;
  gap: 2px;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  padding-right: 46px;
}
.field {
  display: flex;
  gap: 6px;
  align-items: baseline;
  font-size: 14px;
  line-height: 23px;
}
.field dt {
  color: var(--soft-ink);
}
.field.plain dd :deep(*) {
  font-weight: 450;
}
.hand {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  align-items: center;
}
.weight {
  color: var(--soft-ink);
  white-space: nowrap;
}
.round b {
  color: var(--ink);
}
.fields.sound {
  padding-right: 0;
}
.fold {
  position: absolute;
  top: 4px;
  right: 8px;
}
</style>

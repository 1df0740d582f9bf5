<script setup lang="ts">
/** The bench: the chosen lane whole. Every setting a labelled field, its steps' chances to paint, its measures, throws. */
import { computed } from 'vue'

import type { Alternative, Bench, Lane, LanePicture, Word } from '@/api/client'
import PartWords from '@/lattice/sentence/PartWords.vue'
import type { Patch } from '@/stores/document'
import { usePiece } from '@/stores/piece'
import { inkOf } from '@/theme/inks'
import StepBars from './StepBars.vue'
import ThrowControl from './ThrowControl.vue'
import { useMeasures } from './useMeasures'

const props = defineProps<{
  lane: Lane
  /** How many lanes are set together. */
  count: number
  bench: Bench | undefined
  picture: LanePicture | undefined
  barTicks: number
  ask: (setting: string, word: string) => Promise<Alternative[]>
}>()
const emit = defineEmits<{
  move: [word: Word, value: number | string, gesture: string, isTyped: boolean]
  choose: [setting: string, word: string, alternative: Alternative]
  patch: [label: string, patch: Patch]
  cancel: [gesture: string]
  paint: [values: ReadonlyMap<number, number>, gesture: string]
  throwLane: [percent: number]
  throwAll: [percent: number]
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
const STRIP = 'step chances'
const fields = computed(() => props.bench?.fields.filter(({ setting }) => setting !== STRIP) ?? [])
const painted = computed(() => props.bench?.fields.find(({ setting }) => setting === STRIP))
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
          >{{ piece.document?.kit.name }} kit, note {{ voice?.pitch }}, channel
          {{ piece.document?.kit.channel }}</span
        >
      </div>
      <dl class="measures" aria-label="Measures">
        <div v-for="[name, value, explains] in told" :key="name">
          <dt>{{ name }}</dt>
          <dd>{{ value }}</dd>
          <v-tooltip activator="parent" :text="explains" />
        </div>
        <div v-if="bench">
          <dt>comes round after</dt>
          <dd class="round">{{ bench.comes_round_after }}</dd>
          <v-tooltip activator="parent">After how long its hits are the same again, before chance</v-tooltip>
        </div>
      </dl>
      <ThrowControl
        :is-anchored="lane.anchored"
        :follows="picture?.follows !== null"
        @throw-lane="(percent) => emit('throwLane', percent)"
        @throw-all="(percent) => emit('throwAll', percent)"
      />
    </div>
    <div class="whole">
      <dl v-if="bench" class="fields">
        <div
          v-for="field in fields"
          :key="field.setting"
          class="field"
          :class="{ plain: field.is_plain, wide: field.setting === 'source' }"
        >
          <dt>{{ field.label }}<v-tooltip activator="parent" :text="field.explains" /></dt>
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
        <div v-if="picture" class="strip">
          <dt>
            chance of each step
            <PartWords
              v-if="painted"
              :part="painted"
              :owner="`${lane.name} on the bench`"
              :target="lane"
              :ink="lane.ink"
              :bar-ticks="barTicks"
              :ask="ask"
              v-on="hands"
            />
          </dt>
          <dd>
            <StepBars
              :values="bench.step_chances"
              :high="100"
              :plain="100"
              :label="`${lane.name}: chance of each step`"
              :ink="inkOf(lane.ink)"
              :hits="picture.cycle_hits"
              @paint="(values, gesture) => emit('paint', values, gesture)"
            />
          </dd>
        </div>
      </dl>
    </div>
    <button type="button" class="quiet-button fold" aria-label="Fold the bench" @click="emit('fold')">
      fold<v-tooltip activator="parent">Fold the bench (B)</v-tooltip>
    </button>
  </section>
</template>

<style scoped>
.bench {
  grid-column: 1 / -1;
  position: relative;
  display: grid;
  grid-template-columns: var(--head) 1fr;
  min-height: 150px;
  background: var(--card);
  border-top: 1.5px solid var(--ink);
  border-left: 8px solid var(--lane-ink);
}
.who {
  padding: 10px 14px 8px 16px;
  display: grid;
  align-content: start;
  gap: 7px;
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
  padding: 8px 64px 8px 0;
  min-width: 0;
}
.fields {
  display: grid;
  grid-template-columns: repeat(7, minmax(0, auto));
  justify-content: space-between;
  gap: 5px 14px;
}
.field.wide {
  grid-column: span 2;
}
.field dd {
  font-size: 15px;
  line-height: 22px;
}
.field.plain dd :deep(*) {
  font-weight: 450;
}
.field dt,
.strip dt {
  font-size: 13px;
  line-height: 16px;
  color: var(--soft-ink);
}
.strip {
  grid-column: span 4 / -1;
}
.measures .round {
  font-size: 15px;
}
.fold {
  position: absolute;
  top: 4px;
  right: 8px;
}
</style>

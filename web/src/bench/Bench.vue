<script setup lang="ts">
/** The bench: the chosen lane whole. Every setting a labelled field, its steps' chances to paint, its measures, throws. */
import { computed } from 'vue'

import type { Bench, Lane, LanePicture } from '@/api/client'
import { useHands } from '@/hands/useHands'
import { provideWords } from '@/hands/words'
import { useReach } from '@/page/reach'
import { useDrag } from '@/page/useDrag'
import PartWords from '@/sentence/PartWords.vue'
import { inkOf } from '@/theme/inks'
import RateHand from './RateHand.vue'
import BenchSizes from './BenchSizes.vue'
import { sizeBeside, type BenchSize } from './sizes'
import StripPane from './StripPane.vue'
import ThrowControl from './ThrowControl.vue'
import { useMeasures } from './useMeasures'

const reach = useReach()
const props = defineProps<{
  lane: Lane
  /** How many lanes are set together. */
  count: number
  bench: Bench | undefined
  picture: LanePicture | undefined
  barTicks: number
  /** Whether the pattern has lanes that play pitches: their settings take more room. */
  isMelodic: boolean
  /** The stretch of time in view, in ticks; and the step of the lane that plays there, -1 while none does. */
  firstTick: number
  endTick: number
  nowStep: number
}>()
const emit = defineEmits<{ fold: [] }>()
const size = defineModel<BenchSize>('size', { required: true })

/** Pixels that the upper edge is dragged for one size more, or one less; below the smallest it is folded. */
const A_SIZE = 80
const edge = useDrag(({ clientY }) => {
  const from = size.value
  let to: BenchSize | null = from
  return {
    move(event) {
      to = sizeBeside(from, Math.round((clientY - event.clientY) / A_SIZE))
      if (to) size.value = to
    },
    end: () => to ?? emit('fold'),
  }
})
const { edits, wordsOf } = useHands()
const words = wordsOf(() => props.lane)
provideWords(words)

const measures = useMeasures(() => props.lane.id)
/** It stands beside the step, for the other finger of the same hand. */
const WEIGHT = 'beat weight'
const hasHand = computed(() => Boolean(props.bench?.rates.length))
const weight = computed(() => props.bench?.fields.find(({ setting }) => setting === WEIGHT))
/** Every other setting, in the groups that the engine puts it in, in its order. */
const groups = computed(() => {
  const byGroup = new Map<string, Bench['fields']>()
  for (const field of props.bench?.fields ?? [])
    if (field.setting !== WEIGHT || !hasHand.value)
      byGroup.set(field.group, [...(byGroup.get(field.group) ?? []), field])
  return [...byGroup].map(([name, fields]) => ({ name, fields }))
})
const share = (value: number) => `${Math.round(100 * value)} %`
const measureTexts = computed(() =>
  measures.value
    ? [
        ['hits a bar', measures.value.hits_a_bar.toFixed(measures.value.hits_a_bar % 1 ? 1 : 0), 'Hits in a bar, before chance'],
        ['syncopation', share(measures.value.syncopation), 'How much stronger places of the bar pass by while a note before them is held'],
        ['evenness', share(measures.value.evenness), 'How evenly its hits are spread round the cycle'],
        ['distance from the start', share(measures.value.distance), 'Share of this lane’s steps that differ from when the piece was opened'],
        ['of all lanes', share(measures.value.pattern_distance), 'Share of the whole pattern’s steps that differ from when the piece was opened'],
      ] as const
    : [],
) // prettier-ignore
</script>

<template>
  <section
    class="bench"
    :class="[size, { melodic: isMelodic }]"
    :data-bench-of="lane.id"
    :aria-label="`Bench of ${lane.name}`"
    :style="{ '--lane-ink': inkOf(lane.ink) }"
  >
    <div
      v-tip="'Drag: how much of the bench is shown (Shift+B), down to nothing (B)'"
      class="edge"
      aria-hidden="true"
      v-bind="edge.on"
    />
    <div class="who">
      <div class="whose">
        <span class="named">{{ lane.name }}</span>
        <span v-if="count > 1" class="together">and {{ count - 1 }} more, set together</span>
        <span v-else class="where">{{ bench?.voice }}</span>
      </div>
      <div v-if="bench && hasHand" class="hand">
        <RateHand
          :name="lane.name"
          :rates="bench.rates"
          :rate="bench.rate"
          @rate="(place, gesture) => edits.setRate(lane, place, gesture)"
        />
        <span v-if="weight" class="weight"
          >{{ weight.label }}
          <PartWords
            :part="weight"
            :owner="`${lane.name} on the bench`"
            :ink="lane.ink"
            :bar-ticks="barTicks"
        /></span>
      </div>
      <ThrowControl
        class="throws"
        :is-anchored="lane.anchored"
        :follows="picture?.follows !== null"
        @throw-lane="(percent) => edits.throwLane(lane, percent)"
        @throw-all="edits.throwAll"
      />
    </div>
    <p v-if="!bench && reach.isAway" class="away">
      The settings of {{ lane.name }} are shown when the server is back. Its sentence above can be changed
      now.
    </p>
    <div v-if="bench && size !== 'small'" class="whole">
      <div class="settings">
        <div
          v-for="{ name, fields } in groups"
          :key="name"
          class="group"
          role="group"
          :aria-label="`Settings: ${name}`"
        >
          <h2 class="group-name">{{ name }}</h2>
          <dl>
            <div
              v-for="field in fields"
              :key="field.setting"
              class="field"
              :class="{ plain: field.is_plain }"
            >
              <dt v-tip="field.explains">{{ field.label }}</dt>
              <dd>
                <PartWords
                  :part="field"
                  is-whole
                  :owner="`${lane.name} on the bench`"
                  :ink="lane.ink"
                  :bar-ticks="barTicks"
                />
              </dd>
            </div>
          </dl>
        </div>
        <dl class="group measures" aria-label="Measures">
          <div v-for="[name, value, explains] in measureTexts" :key="name" v-tip="explains" class="field">
            <dt>{{ name }}</dt>
            <dd>{{ value }}</dd>
          </div>
          <div
            v-tip="'After how long all that it plays is the same again, before chance'"
            class="field round"
          >
            <dt v-if="bench.pool">{{ bench.pool }}; all</dt>
            <dt v-else class="visually-hidden">all</dt>
            <dd>
              <b>{{ bench.repeats }}</b>
              <button
                v-if="bench.fits"
                v-tip="'The notes begin again with each cycle of the lane'"
                type="button"
                class="quiet-button fit"
                @click="words.patch('its notes begin with each cycle', bench.fits)"
              >
                fit the pool to the hits
              </button>
            </dd>
          </div>
        </dl>
      </div>
      <StripPane
        v-if="picture && size === 'large'"
        :lane="lane"
        :strips="bench.strips"
        :channel="bench.channel"
        :picture="picture"
        :bar-ticks="barTicks"
        :first-tick="firstTick"
        :end-tick="endTick"
        :now-step="nowStep"
      />
    </div>
    <BenchSizes v-model="size" @fold="emit('fold')" />
  </section>
</template>

<style scoped>
.bench {
  grid-column: 1 / -1;
  grid-row: 6;
  max-height: 46vh; /* on a small screen lanes stay in view */
  /* As high for one lane as for the next: nothing moves away under a hand that chooses. */
  height: 48px;
  overflow-y: auto;
  position: relative;
  --who: 292px;
  background: var(--card);
  border-top: 1.5px solid var(--ink);
  border-left: 8px solid var(--lane-ink);
}
/* It stays in place while the bench is scrolled. */
.edge {
  position: sticky;
  top: 0;
  z-index: 1;
  height: 8px;
  margin-bottom: -8px;
  cursor: ns-resize;
  touch-action: none;
}
.edge:hover {
  background: color-mix(in srgb, var(--lane-ink) 30%, transparent);
}
.bench.medium {
  height: 196px;
}
.bench.medium.melodic {
  height: 252px;
}
.bench.large {
  height: 364px;
}
.bench.large.melodic {
  height: 398px;
}
.who {
  padding: 8px 250px 4px 16px; /* below the edge; the sizes stand at its end */
  display: grid;
  grid-template-columns: var(--who) minmax(320px, 480px) auto;
  gap: 4px 20px;
  align-items: center;
  font-size: 14px;
  color: var(--soft-ink);
}
.whose {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.who .named {
  font-size: 18px;
  color: var(--ink);
  margin-right: 8px;
}
.together {
  font-weight: 600;
  color: var(--act-text);
}

.away {
  padding: 12px 16px;
  color: var(--soft-ink);
}
.whole {
  padding: 2px 16px 6px;
  min-width: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
}
.settings {
  columns: 3;
  column-gap: 24px;
}
.group {
  padding-left: 52px;
  font-size: 14px;
  line-height: 28px; /* what is pressed in one line lies clear of the next */
  orphans: 1;
  widows: 1;
}
.group dl {
  display: inline;
}
.group-name {
  float: left;
  margin: 0 0 0 -52px;
  font: 650 14px/28px var(--name-font);
  color: var(--ink);
}
.field {
  display: inline-block;
  max-width: 100%;
  vertical-align: top;
  margin-right: 12px;
}
.field > * {
  display: inline;
}
.field dt {
  margin-right: 5px;
  white-space: nowrap;
}
.field dt {
  color: var(--soft-ink);
}
.field.plain dd :deep(*) {
  font-weight: 450;
}
.measures dd {
  font-weight: 600;
}
.measures .round {
  color: var(--soft-ink);
}
.fit {
  min-height: 28px;
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 3px;
}
.round b {
  color: var(--ink);
}
.throws {
  grid-column: 3;
}
.hand {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: center;
}
.weight {
  color: var(--soft-ink);
  white-space: nowrap;
}
/* Where it is narrow the throws stand below. */
@media (max-width: 1180px) {
  .bench {
    --who: 110px;
    height: 84px;
  }
  .who {
    grid-template-columns: var(--who) minmax(300px, 440px);
  }
  .where {
    display: none;
  }
  .throws {
    grid-column: 1 / -1;
    grid-row: 2;
  }
  .bench.medium {
    height: 286px;
  }
  .bench.medium.melodic {
    height: 342px;
  }
  .bench.large,
  .bench.large.melodic {
    height: 46vh;
  }
}
</style>

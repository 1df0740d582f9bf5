<script setup lang="ts">
/** What a word does, with a small lane that shows and plays it. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'

import type { Help, HelpWord } from '@/engine/help'
import type { TimeScale } from '@/lattice/geometry/scale'
import { yOfPitch } from '@/lattice/geometry/staff'
import Playhead from '@/lattice/Playhead.vue'
import SentenceLine from '@/sentence/SentenceLine.vue'
import { inkOf } from '@/theme/inks'
import type { Patch } from '@/work/document'
import SmallThread from './SmallThread.vue'
import { useSmallScore } from './useSmallScore'

const props = defineProps<{ help: Help; word: HelpWord }>()
const { isOfLane, lane, rendering, parts, begin, player, isPlaying, play, stop } = useSmallScore(props.help, props.word) // prettier-ignore

const threads = useTemplateRef<HTMLElement>('threads')
const { width } = useElementSize(threads)
const HEIGHT = 56
const scale = computed<TimeScale>(() => ({
  firstTick: rendering.value?.first_tick ?? 0,
  endTick: rendering.value?.end_tick ?? 1,
  width: Math.round(width.value),
}))
const pictures = computed(() => rendering.value?.lanes ?? [])
const lanes = computed(() => pictures.value.map((picture) => ({ picture, lane: rowOf(picture.id) })))
const rowOf = (id: string) => props.help.bases[props.word.base]?.lanes?.find((one) => one.id === id)
const stepTicks = computed(() => new Map(pictures.value.map(({ id, step_ticks }) => [id, step_ticks])))
function placeOf(id: string, pitch: number) {
  const at = pictures.value.findIndex((picture) => picture.id === id)
  const staff = pictures.value[at]?.staff
  if (at < 0) return undefined
  return at * HEIGHT + (staff ? yOfPitch(pitch, staff, HEIGHT) : HEIGHT / 2)
}

/** Which example is shown; -1: none, all is plain. */
const shown = ref(-1)
function show(at: number, patch: Patch) {
  shown.value = at
  begin(patch)
}
const first = props.word.examples[0]
if (first) show(0, first.patch)
</script>

<template>
  <article class="word" :aria-label="word.label">
    <header>
      <h2>{{ word.label }}</h2>
      <small>{{ isOfLane ? `on the bench: ${word.group}` : 'of a pattern' }}</small>
      <small v-if="word.red" class="red">said in red: it bends what a lane plays</small>
    </header>
    <p class="explains">{{ word.explains }}</p>
    <div class="small" role="group" :aria-label="`${word.label}, shown`">
      <button
        type="button"
        class="play word-button strong"
        :aria-pressed="isPlaying"
        @click="isPlaying ? stop() : play()"
      >
        {{ isPlaying ? 'Stop' : 'Play' }}
      </button>
      <div class="names">
        <b v-for="{ picture, lane: shownLane } in lanes" :key="picture.id" class="named">{{
          shownLane?.name
        }}</b>
      </div>
      <div ref="threads" class="threads">
        <div v-for="{ picture, lane: shownLane } in lanes" :key="picture.id" class="thread">
          <SmallThread
            v-if="width"
            :picture="picture"
            :scale="scale"
            :height="HEIGHT"
            :ink="inkOf(shownLane?.ink ?? 0)"
            :away="rendering?.away ?? []"
          />
        </div>
        <Playhead
          class="over"
          :player="player"
          :is-playing="isPlaying"
          pattern-id="help"
          :scale="scale"
          :place-of="placeOf"
          :height="lanes.length * HEIGHT"
          :step-ticks="stepTicks"
          lights
        />
      </div>
      <p class="says">
        <b>{{ isOfLane ? lane.name : 'Pattern' }}</b>
        <SentenceLine
          :owner="isOfLane ? lane.name : 'Pattern'"
          :parts="parts"
          :has-offers="isOfLane"
          :ink="lane.ink"
          :bar-ticks="rendering?.bar_ticks ?? 1"
        />
      </p>
    </div>
    <div class="examples" role="group" aria-label="Examples">
      <button type="button" class="word-button" :aria-pressed="shown === -1" @click="show(-1, {})">
        without
      </button>
      <button
        v-for="(example, at) in word.examples"
        :key="example.text"
        type="button"
        class="word-button"
        :aria-pressed="shown === at"
        @click="show(at, example.patch)"
      >
        {{ example.text }}
      </button>
    </div>
    <p class="hint">
      Take hold of the words of the sentence: drag a number, press a word. It belongs to no piece.
    </p>
  </article>
</template>

<style scoped>
.word {
  display: grid;
  gap: 12px;
  justify-items: start;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 14px;
}
h2 {
  font-size: 26px;
}
small {
  font-size: 14px;
  color: var(--soft-ink);
}
small.red {
  color: var(--act-text);
}
.explains {
  font-size: 17px;
  line-height: 25px;
}
.small {
  justify-self: stretch;
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 8px 14px;
  align-items: center;
  padding: 14px 16px;
  border: 1.5px solid var(--rule);
  border-radius: 14px;
  background: var(--paper);
}
.play {
  min-height: 44px;
  border-radius: 22px;
}
.threads {
  position: relative;
  min-width: 0;
}
.names b {
  display: block;
  line-height: 56px;
}
.over {
  left: 0;
}
.says {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: baseline;
  min-height: 30px;
  font-size: 15px;
}
.examples {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.examples [aria-pressed='true'] {
  background: var(--keep);
  border-color: var(--ink);
  color: #2b2440;
}
.hint {
  font-size: 14px;
  color: var(--soft-ink);
}
</style>

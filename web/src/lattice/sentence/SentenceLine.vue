<script setup lang="ts">
/** What acts on something, in words that can be taken hold of; at the end what else could, and what did not fit. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'

import type { Alternative, Part, Word } from '@/api/client'
import type { Patch } from '@/stores/document'
import AlternativeList from './AlternativeList.vue'
import { foldedParts } from './folding'
import PartWords from './PartWords.vue'

const props = withDefaults(
  defineProps<{
    owner: string
    parts: readonly Part[]
    target: object
    ask: (setting: string, word: string) => Promise<Alternative[]>
    /** Whether a "+" offers what is still plain. */
    hasOffers?: boolean
    /** Lines after which the sentence ends in "and 3 more"; 0: never. */
    lines?: number
    ink?: number
    barTicks?: number
  }>(),
  { hasOffers: false, lines: 0, ink: 0, barTicks: 1 },
)
const emit = defineEmits<{
  move: [word: Word, value: number | string, gesture: string, isTyped: boolean]
  choose: [setting: string, word: string, alternative: Alternative]
  patch: [label: string, patch: Patch]
  cancel: [gesture: string]
  more: []
}>()

/** A part that is held stays in place while its number passes its plain value, so that the hand does not lose it. */
const held = shallowRef<{ part: Part; at: number } | null>(null)
const isAdding = ref(false)
/** Counts openings: a list that is opened again while it still closes asks anew. */
const opened = ref(0)
watch(isAdding, (opens) => opens && opened.value++)
const all = computed<readonly Part[]>(() => {
  const kept = held.value
  const isGone = kept && !props.parts.some(({ setting }) => setting === kept.part.setting)
  return isGone ? props.parts.toSpliced(kept.at, 0, kept.part) : props.parts
})

const line = useTemplateRef<HTMLElement>('line')
const { width } = useElementSize(line)
const context = document.createElement('canvas').getContext('2d')
if (context) context.font = '600 14px "Atkinson Hyperlegible Next Variable"'
const measure = (text: string) => context?.measureText(text).width ?? text.length * 7
const folded = computed(() =>
  props.lines && width.value
    ? foldedParts(all.value, width.value, props.lines, measure)
    : { shown: all.value, left: 0 },
)

/** The setting of which something was just taken from a list: its word has the focus, but no hand on it. */
let takenFrom = ''
function hold(part: Part, at: number) {
  if (part.setting !== takenFrom) held.value = { part, at }
}
function letGo() {
  held.value = null
  takenFrom = ''
}
function takenFromList(setting: string) {
  letGo()
  takenFrom = setting
}
function patch(label: string, fields: Patch) {
  letGo()
  emit('patch', label, fields)
}
function take(offer: Alternative) {
  isAdding.value = false
  emit('choose', '', '', offer)
}
</script>

<template>
  <span ref="line" class="sentence" :class="{ block: lines }" @focusout="letGo">
    <template v-for="(part, at) in folded.shown" :key="part.setting">
      <span v-if="at > 0" class="dot" aria-hidden="true"> · </span>
      <PartWords
        :part="part"
        :owner="owner"
        :target="target"
        :ink="ink"
        :bar-ticks="barTicks"
        :ask="ask"
        @focusin="hold(part, at)"
        @move="(word, value, gesture, isTyped) => emit('move', word, value, gesture, isTyped)"
        @choose="(setting, word, alternative) => emit('choose', setting, word, alternative)"
        @taken="takenFromList(part.setting)"
        @patch="patch"
        @cancel="(gesture) => emit('cancel', gesture)"
      />
    </template>
    <button
      v-if="folded.left"
      v-tip="'Show them all on the bench'"
      type="button"
      class="left-out"
      @click="emit('more')"
    >
      and {{ folded.left }} more
    </button>
    <button
      v-if="hasOffers"
      v-tip="isAdding ? '' : 'What else could act on this lane'"
      type="button"
      class="more"
      :aria-label="`${owner}: add a setting`"
    >
      +

      <v-menu v-model="isAdding" activator="parent" :close-on-content-click="false">
        <AlternativeList
          :key="opened"
          :ask="() => ask('', '')"
          :ink="ink"
          :bar-ticks="barTicks"
          :label="`${owner}: what could act`"
          @choose="take"
        />
      </v-menu>
    </button>
  </span>
</template>

<style scoped>
.sentence {
  font-size: 14px;
  line-height: 19px;
  color: var(--soft-ink);
}
.sentence.block {
  display: block;
}
.dot {
  white-space: pre-wrap;
}
.more,
.left-out {
  min-width: 28px;
  height: 22px;
  margin: -3px 0 -3px 4px;
  border-radius: 8px;
  border: 1.5px dashed var(--rule);
  font: 700 15px/1 var(--text-font);
  color: var(--soft-ink);
  cursor: pointer;
}
.left-out {
  padding: 0 6px;
  border-style: solid;
  font-size: 13px;
  font-weight: 600;
}
.more:hover,
.left-out:hover {
  color: var(--ink);
  border-color: var(--ink);
}
</style>

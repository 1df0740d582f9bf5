<script setup lang="ts">
/**
 * What acts on something, in words that can be taken hold of; at the end what else could. On one line what is red comes right
 * after the source, and the line is whole under the pointer, the focus, or an open list.
 */
import { useTimeoutFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, useTemplateRef, watch } from 'vue'

import type { Alternative, Part } from '@/api/client'
import { useWords } from '@/hands/words'
import { useTabStop } from '@/page/tabStop'
import AlternativeList from './AlternativeList.vue'
import PartWords from './PartWords.vue'

const props = withDefaults(
  defineProps<{
    owner: string
    parts: readonly Part[]
    /** Whether a "+" offers what is still plain. */
    hasOffers?: boolean
    /** Whether it has but one line; else as many as it needs. */
    isOneLine?: boolean
    ink?: number
    barTicks?: number
  }>(),
  { hasOffers: false, isOneLine: false, ink: 0, barTicks: 1 },
)
const words = useWords()
const stop = useTabStop()

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

/** A pointer that only passes on its way to another lane opens nothing. */
const REST_MS = 220
const isUnderPointer = ref(false)
const row = useTemplateRef<HTMLElement>('row')
const { start: enter, stop: leaveRest } = useTimeoutFn(() => (isUnderPointer.value = true), REST_MS, {
  immediate: false,
})
function leave() {
  leaveRest()
  isUnderPointer.value = false
  if (row.value) row.value.scrollLeft = 0
}
onScopeDispose(leave)

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
function take(offer: Alternative) {
  isAdding.value = false
  words.choose('', '', offer)
}
</script>

<template>
  <span
    class="sentence"
    :class="{ line: isOneLine, under: isUnderPointer }"
    @focusout="letGo"
    @pointerenter="enter"
    @pointerleave="leave"
  >
    <span ref="row" class="parts">
      <span v-for="(part, at) in all" :key="part.setting" class="one" :class="{ red: part.red, first: !at }">
        <span v-if="at > 0" class="dot" aria-hidden="true"> · </span>
        <PartWords
          :part="part"
          :owner="owner"
          :ink="ink"
          :bar-ticks="barTicks"
          @focusin="hold(part, at)"
          @taken="takenFromList(part.setting)"
          @patched="letGo"
        />
      </span>
      <button
        v-if="hasOffers"
        v-tip="isAdding ? '' : 'What else could act on this lane'"
        type="button"
        class="more"
        :tabindex="stop"
        aria-haspopup="true"
        :aria-expanded="isAdding"
        :aria-label="`${owner}: add a setting`"
      >
        +

        <v-menu v-model="isAdding" activator="parent" :close-on-content-click="false">
          <AlternativeList
            :key="opened"
            :ask="() => words.ask('', '')"
            :ink="ink"
            :bar-ticks="barTicks"
            :label="`${owner}: what could act`"
            @choose="take"
          />
        </v-menu>
      </button>
    </span>
  </span>
</template>

<style scoped>
.sentence {
  font-size: 14px;
  line-height: 28px; /* what is pressed in one line lies clear of the next */
  color: var(--soft-ink);
}
.dot {
  white-space: pre-wrap;
}
.more {
  min-width: 28px;
  height: 22px;
  margin: -3px 0 -3px 4px;
  border-radius: 8px;
  border: 1.5px dashed var(--rule);
  font: 700 15px/1 var(--text-font);
  color: var(--soft-ink);
  cursor: pointer;
}
.more:hover {
  color: var(--ink);
  border-color: var(--ink);
}

.line {
  position: relative;
  display: block;
  height: 28px;
  min-width: 0;
}
.line > .parts {
  position: absolute;
  inset: 0;
  display: flex;
  align-items: center;
  overflow: hidden;
  white-space: pre;
  mask-image: linear-gradient(to right, #000 calc(100% - 22px), transparent);
}
.line .dot {
  white-space: pre;
}
.line .one {
  flex: none;
}
.line .one.red {
  order: -1;
}
.line .one.first {
  order: -2;
}
.line .more {
  flex: none;
  margin-block: 0;
}
/* It lies over the thread, one line high: a pointer on its way up or down leaves it at once. */
.line.under > .parts,
.line:has(:focus-visible) > .parts,
.line:has([aria-expanded='true']) > .parts {
  inset: 0 auto 0 -6px;
  width: max-content;
  padding: 0 8px 0 6px;
  z-index: 6;
  overflow: visible;
  mask-image: none;
  background: var(--card);
  border-radius: 8px;
  box-shadow: 0 0 0 1.5px var(--rule);
}
</style>

<script setup lang="ts">
/** A lane's name, its sentence, mute and solo. */
import { onMounted, ref, useTemplateRef, watch } from 'vue'
import { useTrying } from '@/playing/useTrying'

import type { Lane, LanePicture, Schemas } from '@/api/client'
import BusyHand from '@/around/BusyHand.vue'
import { learns } from '@/hands/learn'
import { useHandSettings } from '@/hands/useHandSettings'
import { provideTabStop } from '@/page/tabStop'
import { useFocusBackFrom } from '@/page/useFocusBack'
import { useHands } from '@/hands/useHands'
import { provideWords } from '@/hands/words'
import { inkOf } from '@/theme/inks'
import LaneCard from './LaneCard.vue'
import SentenceLine from '@/sentence/SentenceLine.vue'

const props = defineProps<{
  lane: Lane
  /** Its place among the lanes. */
  place: number
  picture: LanePicture | undefined
  voices: readonly Schemas['Voice'][]
  isChosen: boolean
  /** Whether it has just been added: its voice opens for choosing. */
  isNew: boolean
  /** Whether its row is the high one: its sentence is whole. */
  isHigh: boolean
  barTicks: number
}>()
/** `grip`: the hand takes hold of the row, to put it elsewhere. */
const emit = defineEmits<{ grip: [lane: Lane] }>()
const { edits, chosen, mute, solo, wordsOf } = useHands()
const trying = useTrying()
const settings = useHandSettings()
const words = wordsOf(() => props.lane)
const stop = provideTabStop(() => props.isHigh)
provideWords(words)
/**
 * A press on one of several chosen lanes may begin a drag that moves them all; a click that is none leaves this one
 * chosen alone. Mute, solo and anchor are of all that are chosen.
 */
let pressed: { x: number; y: number } | null = null
const addsToChosen = (event: MouseEvent) =>
  event.ctrlKey || event.metaKey || event.shiftKey || settings.isChoosing
function onPointerDown(event: PointerEvent) {
  pressed = { x: event.clientX, y: event.clientY }
  if (settings.isChoosing) chosen.touch(props.lane.id, { ctrlKey: true })
  else if (!props.isChosen || addsToChosen(event)) chosen.touch(props.lane.id, event)
}
function onClick(event: MouseEvent) {
  const began = pressed
  pressed = null
  if (!began || addsToChosen(event)) return
  if (Math.hypot(event.clientX - began.x, event.clientY - began.y) > 4) return
  if (event.target instanceof Element && event.target.closest('.switch')) return
  chosen.touch(props.lane.id, event)
}
/** With Ctrl or Shift the band is a place to choose the lane by, as the rest of its head is. */
function onGrip(event: PointerEvent) {
  if (addsToChosen(event)) return
  event.stopPropagation()
  emit('grip', props.lane)
}
const isCardOpen = ref(false)
const card = useTemplateRef<InstanceType<typeof LaneCard>>('card')
/** Until its card has been closed once. */
const choosesVoice = ref(props.isNew)
onMounted(() => (isCardOpen.value = choosesVoice.value))
watch(isCardOpen, (isOpen) => (choosesVoice.value &&= isOpen))
useFocusBackFrom(isCardOpen)
const close = (act: 'copy' | 'remove') => {
  isCardOpen.value = false
  if (act === 'copy') chosen.choose(edits.copy(props.lane))
  else void edits.remove(props.lane)
}
</script>

<template>
  <div
    class="head"
    :class="{ chosen: isChosen, silent: picture?.silent, high: isHigh }"
    :style="{ '--lane-ink': inkOf(lane.ink) }"
    @pointerdown="onPointerDown"
    @click="onClick"
    @focusin="isChosen || chosen.choose(lane.id)"
  >
    <span
      v-tip="'Press: choose this lane (with Ctrl or Shift: more). Drag: put it elsewhere (Alt+↑, Alt+↓)'"
      class="place"
      @pointerdown="onGrip"
    >
    </span>
    <button
      v-tip="'Name, voice and ink of this lane; copy or remove it'"
      type="button"
      class="name named"
      :tabindex="stop"
      :aria-label="`Lane ${lane.name}`"
      aria-haspopup="dialog"
    >
      {{ lane.name }}
      <v-menu
        v-model="isCardOpen"
        activator="parent"
        :close-on-content-click="false"
        @after-enter="card?.begin()"
      >
        <LaneCard
          ref="card"
          :lane="lane"
          :voices="voices"
          :is-new="choosesVoice"
          @change="words.patch"
          @listen="
            (voice) => trying.tryVoice(voice, { level: lane.level_db, pan: lane.pan, room: lane.room })
          "
          @sing="(voice) => trying.trySinging(voice, lane)"
          @copy="close('copy')"
          @remove="close('remove')"
        />
      </v-menu>
    </button>
    <div class="switches">
      <BusyHand v-if="picture?.busy" :lane="lane" :word="picture.busy" />
      <span v-else class="no-hand" />
      <button
        v-tip="'Anchor: no throw and nothing done to all lanes touches it (A)'"
        type="button"
        class="switch anchor"
        :tabindex="stop"
        :aria-pressed="lane.anchored"
        :aria-label="`Anchor ${lane.name}`"
        @click="words.patch(lane.anchored ? 'not anchored' : 'anchored', { anchored: !lane.anchored })"
      >
        A
      </button>
      <button
        v-tip="'Mute: this lane falls silent at once (M)'"
        type="button"
        class="switch"
        :tabindex="stop"
        :aria-pressed="lane.mute"
        :aria-label="`Mute ${lane.name}`"
        v-bind="learns({ kind: 'mute', place })"
        @click="mute(lane, !lane.mute)"
      >
        M
      </button>
      <button
        v-tip="'Solo: only soloed lanes sound (S)'"
        type="button"
        class="switch solo"
        :tabindex="stop"
        :aria-pressed="lane.solo"
        :aria-label="`Solo ${lane.name}`"
        @click="solo(lane, !lane.solo)"
      >
        S
      </button>
    </div>
    <span v-if="picture && isHigh" class="round"
      ><span v-tip="`Its cycle lasts ${picture.cycle_length}`">{{ picture.cycle_length }}</span
      ><span
        v-if="picture.folded"
        v-tip="'So many hits would leave what MIDI has, 0 to 127: moved into it by octaves'"
        class="folded"
        >{{ picture.folded }} folded</span
      ></span
    >
    <SentenceLine
      v-if="picture"
      :owner="lane.name"
      :parts="picture.sentence.parts"
      :is-one-line="!isHigh"
      :ink="lane.ink"
      :bar-ticks="barTicks"
      has-offers
    />
  </div>
</template>

<style scoped>
.head {
  position: relative;
  padding: 0 10px 0 20px;
  min-width: 0;
  display: grid;
  grid-template-columns: 112px auto minmax(0, 1fr);
  align-items: center;
  column-gap: 8px;
}
.head.high {
  padding-block: 3px 5px;
  grid-template-columns: minmax(112px, auto) auto minmax(0, 1fr);
  align-content: center;
}
.high > .sentence {
  grid-column: 1 / -1;
  grid-row: 2;
}
.no-hand {
  width: 28px;
}
.place {
  position: absolute;
  inset: 0 auto 0 0;
  width: 8px;
  background: var(--lane-ink);
  cursor: grab;
  touch-action: none;
}
.place:hover {
  width: 14px;
}
.head.chosen {
  background: var(--card);
}
.name {
  padding: 0 4px;
  margin-left: -4px;
  min-height: 28px;
  max-width: 116px;
  border-radius: 6px;
  font-size: 16px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  text-align: left;
  cursor: pointer;
}
.high .name {
  max-width: none;
  font-size: 17px;
}
.name:hover {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.round {
  font-size: 13px;
  color: var(--soft-ink);
  white-space: nowrap;
}
.folded {
  margin-left: 8px;
  font-size: 13px;
  font-weight: 600;
  color: var(--act-text);
  white-space: nowrap;
}
.switches {
  display: flex;
  gap: 2px;
}
.silent .name {
  text-decoration: line-through;
  color: var(--soft-ink);
}
.silent :deep(.number),
.silent :deep(.choice) {
  color: var(--soft-ink);
}
.switch {
  width: 28px;
  min-width: 28px;
  height: 28px;
  border-radius: 8px;
  border: 1.5px solid var(--rule);
  background: var(--card);
  font: 700 13px/1 var(--text-font);
  color: var(--soft-ink);
  cursor: pointer;
}
.switch:hover {
  border-color: var(--ink);
}
.switch[aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--paper);
}
.switch.anchor[aria-pressed='true'] {
  background: transparent;
  border-color: var(--ink);
  color: var(--ink);
  box-shadow: inset 0 -3px 0 var(--ink);
}
.switch.solo[aria-pressed='true'] {
  background: var(--keep);
  border-color: var(--keep);
  color: #2b2440;
}
@media (pointer: coarse) {
  .switch,
  .name {
    min-height: 40px;
    min-width: 40px;
  }
}
/* Where there is little room, a lane that is not chosen says what it does rather than what could be switched. */
@media (max-width: 900px) {
  .head:not(.high) {
    grid-template-columns: 112px minmax(0, 1fr);
  }
  .head:not(.high) .switches,
  .round {
    display: none;
  }
}
</style>

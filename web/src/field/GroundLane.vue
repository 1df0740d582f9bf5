<script setup lang="ts">
/** A lane beside a ground: what it plays, its part, its place and its busy-ness in words; on and off, pinned or not. */
import { computed } from 'vue'

import type { Lane, LanePicture } from '@/api/client'
import BusyHand from '@/around/BusyHand.vue'
import type { GroundId } from '@/engine/around'
import { standsOn } from './onGround'
import { useHands } from '@/hands/useHands'
import { provideWords } from '@/hands/words'
import { provideTabStop } from '@/page/tabStop'
import MiniThread from '@/sentence/MiniThread.vue'
import SentenceLine from '@/sentence/SentenceLine.vue'

const props = defineProps<{
  lane: Lane
  picture: LanePicture | undefined
  ground: GroundId
  endTick: number
  barTicks: number
  /** Whether the Tab key stops at it. */
  isStop: boolean
}>()
const emit = defineEmits<{ put: [lane: Lane]; off: [lane: Lane] }>()
const { wordsOf, edits } = useHands()
provideWords(wordsOf(() => props.lane))
const stop = provideTabStop(() => props.isStop)

const isOn = computed(() => standsOn(props.lane, props.ground))
const isPinned = computed(() => props.lane.source.kind === 'ground' && props.lane.source.pinned)
const WORDS = new Set(['source', 'busy-ness'])
const parts = computed(() => props.picture?.sentence.parts.filter(({ setting }) => WORDS.has(setting)) ?? [])
const pin = () =>
  edits.patch(props.lane, isPinned.value ? 'free to move' : 'pinned where it is', {
    source: { ...props.lane.source, pinned: !isPinned.value },
  })
</script>

<template>
  <li class="lane" :class="{ on: isOn }" :data-row="lane.id">
    <span class="name named">{{ lane.name }}</span>
    <MiniThread v-if="picture" :picture="picture" :ink="lane.ink" :from="0" :end="endTick" :width="168" />
    <BusyHand v-if="picture?.busy" class="busy-hand" :lane="lane" :word="picture.busy" />
    <span v-else />
    <button
      type="button"
      class="word-button"
      :tabindex="stop"
      :aria-label="`${lane.name}: ${isOn ? 'off' : 'put on'} the ground`"
      @click="isOn ? emit('off', lane) : emit('put', lane)"
    >
      {{ isOn ? 'off' : 'put on' }}
    </button>
    <button
      v-if="isOn"
      v-tip="'Pinned, it stays where it is when the others move'"
      type="button"
      class="quiet-button"
      :tabindex="stop"
      :aria-pressed="isPinned"
      :aria-label="`${isPinned ? 'pinned' : 'pin'} ${lane.name}`"
      @click="pin"
    >
      {{ isPinned ? 'pinned' : 'pin' }}
    </button>
    <SentenceLine
      class="words"
      :owner="lane.name"
      :parts="parts"
      :ink="lane.ink"
      :bar-ticks="barTicks"
      is-one-line
    />
  </li>
</template>

<style scoped>
.lane {
  display: grid;
  grid-template-columns: 84px 168px 28px minmax(0, 1fr) auto;
  align-items: center;
  gap: 0 8px;
  padding: 4px 8px;
  border-radius: 12px;
  border-bottom: 1.5px solid var(--rule);
}
.lane.on {
  background: var(--card);
}
.name {
  font-size: 16px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.words {
  grid-column: 1 / -1;
  font-size: 14px;
}
.quiet-button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 700;
}
.lane > .word-button {
  justify-self: end;
}
</style>

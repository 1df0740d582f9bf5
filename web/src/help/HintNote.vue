<script setup lang="ts">
/** The hint of the moment, beside what it speaks of. */
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { nextTick, ref, useTemplateRef, watch } from 'vue'

import { isSame } from '@/api/same'
import { placedBeside, type Placement } from '@/page/placing'
import { useHints } from './useHints'

const hints = useHints()
const note = useTemplateRef<HTMLElement>('note')
const place = ref<(Placement & { readonly tip: number }) | null>(null)
const GAP = 12
const FOLLOWS_MS = 250

/** What it stands beside may move, and go. */
function follow() {
  const target = hints.now && document.querySelector(hints.now.at)?.getBoundingClientRect()
  const own = note.value?.getBoundingClientRect()
  if (!target?.width || !own) {
    place.value = null
    return
  }
  const placed = placedBeside(target, own, GAP, 'below')
  const tip = Math.max(16, Math.min(target.left + target.width / 2 - placed.x, own.width - 16))
  const next = { ...placed, tip }
  if (!isSame(next, place.value)) place.value = next
}
const { pause, resume } = useIntervalFn(follow, FOLLOWS_MS, { immediate: false })
watch(
  () => hints.now,
  async (hint) => {
    pause()
    if (!hint) return
    resume()
    await nextTick()
    follow()
  },
  { immediate: true },
)
useEventListener(window, 'resize', follow)
</script>

<template>
  <aside
    v-if="hints.now"
    ref="note"
    class="hint-note"
    :class="{ above: place?.isAbove, away: !place }"
    :style="{
      transform: `translate(${place?.x ?? 0}px, ${place?.y ?? 0}px)`,
      '--tip': `${place?.tip ?? 0}px`,
    }"
    aria-label="Hint"
  >
    <p role="status">{{ hints.now.says }}</p>
    <div>
      <small>{{ hints.place }} of {{ hints.count }}</small>
      <button type="button" class="quiet-button" @click="hints.leave">No more hints</button>
      <button type="button" class="word-button" @click="hints.next">Got it</button>
    </div>
  </aside>
</template>

<style scoped>
.hint-note {
  position: fixed;
  left: 0;
  top: 0;
  z-index: 1500;
  width: min(330px, 92vw);
  padding: 12px 14px;
  border: 1.5px solid #2b2440;
  border-radius: 14px;
  background: var(--keep);
  color: #2b2440;
  font-size: 15px;
  line-height: 21px;
}
.hint-note.away {
  visibility: hidden;
}
.hint-note::before {
  content: '';
  position: absolute;
  left: var(--tip);
  top: -8px;
  width: 13px;
  height: 13px;
  margin-left: -7px;
  background: inherit;
  border: inherit;
  border-radius: 0;
  border-right: 0;
  border-bottom: 0;
  transform: rotate(45deg);
}
.hint-note.above::before {
  top: auto;
  bottom: -8px;
  transform: rotate(225deg);
}
.hint-note div {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 8px;
}
.hint-note small {
  flex: 1;
  font-size: 14px;
}
.hint-note .quiet-button {
  color: inherit;
}
.hint-note .word-button {
  background: transparent;
  border-color: currentColor;
  color: inherit;
}
</style>

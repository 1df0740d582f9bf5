<script setup lang="ts">
/** All that was done to the piece, the newest first: go to any moment, and back again. */
import { computed, ref, useTemplateRef } from 'vue'
import type { VVirtualScroll } from 'vuetify/components'

import { useFocusBackFrom } from '@/page/useFocusBack'
import { useShortcuts } from '@/page/useShortcuts'
import { sayAge } from '@/page/age'
import type { Moment } from '@/work/history'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

const piece = usePiece()
const notices = useNotices()
const isOpen = ref(false)
const scroller = useTemplateRef<VVirtualScroll>('scroller')
const panel = useTemplateRef<HTMLElement>('panel')
const ROW = 40

const newestFirst = computed(() => [...piece.history.moments].reverse())
const openedAt = computed(() => piece.opened?.number ?? 0)

async function goTo(moment: Moment) {
  try {
    await piece.goTo(moment)
  } catch (reason) {
    notices.complain(reason, { label: 'Try again', act: () => goTo(moment) })
  }
}
const goToOpened = () => {
  const moment = piece.history.moments.find(({ number }) => number === openedAt.value)
  if (moment) void goTo(moment)
}

/** The keys belong to the list as soon as it is there: Escape closes it. */
function begin() {
  panel.value?.focus()
  const at = newestFirst.value.findIndex(({ number }) => number === piece.history.standsAt)
  scroller.value?.scrollToIndex(Math.max(0, at - 3))
}
useFocusBackFrom(isOpen)
useShortcuts({ h: { says: 'History', act: () => (isOpen.value = !isOpen.value) } })
</script>

<template>
  <button
    v-tip="isOpen ? '' : 'All that was done, moment by moment (H)'"
    type="button"
    class="quiet-button"
    aria-haspopup="dialog"
  >
    History
    <v-menu
      v-model="isOpen"
      activator="parent"
      location="bottom"
      :close-on-content-click="false"
      @after-enter="begin"
    >
      <section ref="panel" tabindex="-1" class="card history" aria-label="History">
        <header>
          <h2>History</h2>
          <button
            type="button"
            class="word-button"
            :disabled="piece.history.standsAt === openedAt"
            @click="goToOpened"
          >
            As I opened it
          </button>
        </header>
        <v-virtual-scroll
          ref="scroller"
          :items="newestFirst"
          :item-height="ROW"
          :height="Math.min(440, ROW * newestFirst.length)"
        >
          <template #default="{ item }">
            <button
              type="button"
              class="moment"
              :class="{ ahead: item.number > piece.history.standsAt, opened: item.number === openedAt }"
              :aria-current="item.number === piece.history.standsAt ? 'true' : undefined"
              @click="goTo(item)"
            >
              <span class="number">{{ item.number }}</span>
              <span class="label">{{ item.label }}</span>
              <span class="when">{{
                item.number === openedAt ? 'as I opened it' : item.at && sayAge(item.at)
              }}</span>
            </button>
          </template>
        </v-virtual-scroll>
      </section>
    </v-menu>
  </button>
</template>

<style scoped>
.history:focus {
  outline: none;
}
.history {
  width: 520px;
  padding: 14px 8px 10px 14px;
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 0 10px 10px 4px;
}
h2 {
  font-size: 20px;
}
.moment {
  display: grid;
  grid-template-columns: 44px 1fr auto;
  align-items: center;
  gap: 8px;
  width: 100%;
  height: 40px;
  padding: 0 10px 0 4px;
  border-radius: 9px;
  text-align: left;
  font-size: 15px;
  cursor: pointer;
}
.moment:hover,
.moment:focus-visible {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.number,
.when {
  font-size: 13px;
  color: var(--soft-ink);
}
.number {
  text-align: right;
}
.label {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.ahead .label {
  color: var(--soft-ink);
  font-style: italic;
}
.opened {
  border-left: 3px solid var(--keep);
}
.moment[aria-current='true'] {
  background: var(--ink);
  color: var(--paper);
}
.moment[aria-current='true'] .number,
.moment[aria-current='true'] .when {
  color: inherit;
}
</style>

<script setup lang="ts">
/** The trail: all that was done and heard, as places, the newest first. Go to any, back again, and take from it. */
import { computed, ref, useTemplateRef } from 'vue'
import type { VVirtualScroll } from 'vuetify/components'

import { useFocusBackFrom } from '@/page/useFocusBack'
import { useShortcuts } from '@/page/useShortcuts'
import type { Moment } from '@/work/history'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { useTrail } from '@/work/trail'
import TrailPlace from './TrailPlace.vue'
import { useBefore } from './useBefore'

const piece = usePiece()
const trail = useTrail()
const notices = useNotices()
const isOpen = ref(false)
const scroller = useTemplateRef<VVirtualScroll>('scroller')
const panel = useTemplateRef<HTMLElement>('panel')
const ROW = 52

const isNamedOnly = ref(false)
const newestFirst = computed(() =>
  piece.history.moments.filter(({ name }) => name || !isNamedOnly.value).reverse(),
)
const step = (go: () => Promise<string | null>) =>
  notices.attempt(async () => {
    await go()
  })
useBefore()
const openedAt = computed(() => piece.opened?.number ?? 0)

async function goTo(moment: Moment) {
  try {
    await trail.goTo(moment)
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
useShortcuts({ h: { says: 'Trail', act: () => (isOpen.value = !isOpen.value) } })
</script>

<template>
  <button
    v-tip="isOpen ? '' : 'All that was done and heard, place by place (H)'"
    type="button"
    class="quiet-button"
    aria-haspopup="dialog"
  >
    Trail
    <v-menu
      v-model="isOpen"
      activator="parent"
      location="bottom"
      :close-on-content-click="false"
      @after-enter="begin"
    >
      <section ref="panel" tabindex="-1" class="card history" aria-label="Trail">
        <header>
          <h2>Trail</h2>
          <button
            type="button"
            class="quiet-button"
            :aria-pressed="isNamedOnly"
            @click="isNamedOnly = !isNamedOnly"
          >
            {{ isNamedOnly ? 'show all' : 'named ones only' }}
          </button>
          <button type="button" class="word-button" :disabled="!trail.before()" @click="step(trail.undo)">
            Back
          </button>
          <button type="button" class="word-button" @click="step(trail.redo)">Forward</button>
          <button
            type="button"
            class="word-button"
            :disabled="piece.history.standsAt === openedAt"
            @click="goToOpened"
          >
            Where I started
          </button>
        </header>
        <v-virtual-scroll
          ref="scroller"
          :items="newestFirst"
          :item-height="ROW"
          :height="Math.min(440, ROW * newestFirst.length)"
        >
          <template #default="{ item }">
            <TrailPlace
              :moment="item"
              :is-here="item.number === piece.history.standsAt"
              :is-ahead="item.number > piece.history.standsAt && !item.heard"
              :is-opened="item.number === openedAt"
              @go="goTo"
            />
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
  width: 720px;
  max-width: 96vw;
  padding: 14px 8px 10px 14px;
}
header {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 0 10px 10px 4px;
}
h2 {
  font-size: 20px;
  margin-right: auto;
}
</style>

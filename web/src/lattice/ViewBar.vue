<script setup lang="ts">
/** A new lane; which bars are in view; follow the music or stay; the bench. */
import type { Lane } from '@/api/client'
import KitPanel from '@/kit/KitPanel.vue'
import StarterPanel from '@/starters/StarterPanel.vue'
import { useHandSettings } from '@/hands/useHandSettings'
import { PROPERTY_VIEWS, useView, VIEWS } from '@/engine/useView'

const view = useView()
const settings = useHandSettings()
defineProps<{
  isBenchOpen: boolean
  isKeysOpen: boolean
  isDetoursOpen: boolean
  lane: Lane | null
}>()
const emit = defineEmits<{ add: []; bench: []; keys: []; detours: [] }>()
</script>

<template>
  <div class="below">
    <slot>
      <button v-tip="'A new lane (N)'" type="button" class="word-button" @click="emit('add')">+ lane</button>
      <button
        v-tip="'The chosen lane whole (B)'"
        type="button"
        class="word-button"
        :aria-pressed="isBenchOpen"
        @click="emit('bench')"
      >
        Bench
      </button>
      <button
        v-tip="'Play the chosen lane from keys (J)'"
        type="button"
        class="word-button"
        :aria-pressed="isKeysOpen"
        @click="emit('keys')"
      >
        Keyboard
      </button>
      <button
        v-tip="'What plays only as long as it is held (Shift+X; X holds the one at hand)'"
        type="button"
        class="word-button"
        :aria-pressed="isDetoursOpen"
        @click="emit('detours')"
      >
        Detour
      </button>
      <button
        v-tip="'A drag along a thread chooses its steps, a touch on a lane adds it: as with Shift and Ctrl'"
        type="button"
        class="word-button choosing"
        :aria-pressed="settings.isChoosing"
        @click="settings.isChoosing = !settings.isChoosing"
      >
        Choose
      </button>
      <StarterPanel :lane="lane" />
      <KitPanel />
      <div class="property" role="group" aria-label="What every step shows">
        <button
          v-for="[name, said] in PROPERTY_VIEWS"
          :key="said"
          v-tip="'What the whole lattice shows, and paints, of every step (P)'"
          type="button"
          class="count"
          :aria-pressed="name === view.property"
          @click="view.property = name"
        >
          {{ said }}
        </button>
      </div>
    </slot>
    <div class="view" role="group" aria-label="Bars in view">
      <button
        v-tip="'Turn the pages with the music, or stay (F)'"
        type="button"
        class="quiet-button"
        :aria-pressed="view.isFollowing"
        @click="view.toggleFollowing"
      >
        {{ view.isFollowing ? 'follows the music' : 'stays here' }}
      </button>
      <button
        v-tip="'Earlier bars (Page Up, Shift+wheel)'"
        type="button"
        class="quiet-button"
        aria-label="Earlier bars"
        :disabled="view.firstBar === 0"
        @click="view.turnPage(-1)"
      >
        ‹
      </button>
      <button
        v-for="count in VIEWS"
        :key="count"
        v-tip="'Ctrl+wheel, [ and ]: any number from 1 to 16'"
        type="button"
        class="count"
        :aria-pressed="count === view.bars"
        :aria-label="`${count} bars in view`"
        @click="view.show(count)"
      >
        {{ count }}
      </button>
      <span>bars</span>
      <button
        v-tip="'Later bars (Page Down, Shift+wheel)'"
        type="button"
        class="quiet-button"
        aria-label="Later bars"
        @click="view.turnPage(1)"
      >
        ›
      </button>
    </div>
  </div>
</template>

<style scoped>
/* Under the ruler, wherever lanes have pitches or not: the hand finds it in the same place. */
.below {
  grid-column: 1 / -1;
  grid-row: 2;
  padding: 3px 12px 3px 24px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
}
.word-button[aria-pressed='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 -3px 0 var(--ink);
}
.property {
  display: flex;
  gap: 2px;
  font-size: 14px;
}
.below > .word-button {
  padding-inline: 10px;
}
.property .count {
  padding: 0 7px;
}
.count:not([aria-pressed='true']) {
  color: var(--soft-ink);
}
.view {
  margin-left: auto;
  display: flex;
  align-items: center;
  gap: 2px;
  font-size: 14px;
  color: var(--soft-ink);
}
.count {
  min-width: 28px;
  height: 28px;
  border-radius: 14px;
  font: 600 14px/1 var(--text-font);
  cursor: pointer;
}
.count:hover {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.count[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
/* Keys that are held do it where there are keys. */
@media (pointer: fine) {
  .choosing {
    display: none;
  }
}
@media (pointer: coarse) {
  .count {
    min-width: 40px;
    height: 40px;
  }
}
</style>

<script setup lang="ts">
/** A row of the order in words: which pattern, how often, how long, and how it differs. */
import { computed } from 'vue'

import { orderApi, type RowPicture } from '@/engine/order'
import { provideWords } from '@/hands/words'
import { provideTabStop } from '@/page/tabStop'
import { useOrder } from '@/playing/order'
import SentenceLine from '@/sentence/SentenceLine.vue'
import { inkOf } from '@/theme/inks'
import { withValueAt, type Patch } from '@/work/document'
import { usePiece } from '@/work/piece'

const props = defineProps<{ picture: RowPicture; isChosen: boolean }>()
const emit = defineEmits<{ copy: []; remove: []; choose: [] }>()
const piece = usePiece()
const order = useOrder()
const stop = provideTabStop(() => props.isChosen)
const place = computed(() => props.picture.place)
const pattern = computed(() => piece.patterns.find(({ id }) => id === props.picture.pattern))
const called = computed(() => `Row ${place.value + 1}`)
const isHeard = computed(() => order.isPlaying && order.at === place.value)

function change(label: string, patch: (row: object) => object, gesture: string | null = null) {
  const here = place.value
  order.edit(
    `${called.value}: ${label}`,
    (rows) => rows.map((row, at) => (at === here ? (patch(row) as typeof row) : row)),
    gesture,
  )
}
const patch = (label: string, fields: Patch) => change(label, (row) => ({ ...row, ...fields }))
provideWords({
  // Where a row has no length of its own, its words say the pattern's.
  document: () => ({
    ...order.rows[place.value],
    bars: order.rows[place.value]?.bars ?? props.picture.repeat_bars,
  }),
  move: (word, value, gesture) =>
    change(`${word.name} → ${value}`, (row) => withValueAt(row, word.field, value), gesture),
  choose: (_setting, _word, { text, patch: fields }) => patch(text, fields),
  patch,
  cancel: piece.takeBack,
  ask: async (setting, word) =>
    piece.document ? orderApi.alternatives(piece.document, place.value, setting, word) : [],
})
</script>

<template>
  <li
    class="row"
    :class="{ chosen: isChosen, heard: isHeard }"
    :data-place="place"
    :style="{ '--ink-of-row': inkOf(pattern?.ink ?? 0) }"
    @focusin="emit('choose')"
    @click="emit('choose')"
  >
    <button
      v-tip="'Drag it to another place (Alt+arrows)'"
      type="button"
      class="grip"
      data-grip
      :tabindex="stop"
      :aria-label="`${called}: move`"
    >
      {{ place + 1 }}
    </button>
    <button
      v-tip="'Play the order from here (Enter)'"
      type="button"
      class="word-button from"
      :tabindex="stop"
      :aria-pressed="isHeard"
      :aria-label="`Row ${place + 1}: ${isHeard ? 'plays' : 'from here'}`"
      @click.stop="order.playFrom(place)"
    >
      {{ isHeard ? 'plays' : 'from here' }}
    </button>
    <span class="words">
      <SentenceLine :owner="called" :parts="picture.parts" has-offers :ink="pattern?.ink ?? 0" />
    </span>
    <span class="time">{{ picture.begins }}</span>
    <span class="acts">
      <button
        v-tip="'A copy below it (D)'"
        type="button"
        class="quiet-button"
        :tabindex="stop"
        @click.stop="emit('copy')"
      >
        copy
      </button>
      <button
        v-tip="'Take it out (Delete); undo brings it back'"
        type="button"
        class="quiet-button"
        :tabindex="stop"
        :aria-label="`Row ${place + 1}: take out`"
        @click.stop="emit('remove')"
      >
        take out
      </button>
    </span>
    <small v-if="picture.pace" class="pace">{{ picture.pace }}</small>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 44px 96px minmax(0, 1fr) 64px auto;
  align-items: center;
  gap: 4px 12px;
  min-height: 46px;
  padding: 4px 12px 4px 0;
  border-left: 8px solid var(--ink-of-row);
  border-bottom: 1px solid var(--rule);
  font-size: 16px;
}
.row.chosen {
  background: var(--card);
}
.row.heard {
  box-shadow: inset 0 0 0 2px var(--act);
}
.grip {
  height: 34px;
  border-radius: 8px;
  font: 600 17px/1 var(--name-font, inherit);
  color: var(--soft-ink);
  cursor: grab;
  touch-action: none;
}
.grip:hover {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.from[aria-pressed='true'] {
  border-color: var(--act);
  color: var(--act-text);
}
.time {
  text-align: right;
  color: var(--soft-ink);
  font-variant-numeric: tabular-nums;
}
.acts {
  display: flex;
}
.pace {
  grid-column: 3 / -1;
  font-size: 14px;
  color: var(--soft-ink);
}
@media (pointer: coarse) {
  .grip {
    min-width: 44px;
    height: 40px;
  }
}
</style>

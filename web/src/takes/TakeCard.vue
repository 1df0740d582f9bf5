<script setup lang="ts">
/** One take: its notes, its measures, and what can be done with it. */
import type { DrawnTake, OpenSheet } from '@/api/takes'
import type { SheetTrack } from '@/api/client'
import NoteSheet from '@/sheet/NoteSheet.vue'
import { ref } from 'vue'
import { useElementSize } from '@vueuse/core'
import { offSaid, saidOf } from './sorting'

defineProps<{
  take: DrawnTake
  sheet: OpenSheet
  barTicks: number
  dice: number
  /** The clip that it was kept as, or null. */
  clip: number | null
  isHeard: boolean
  isLaid: boolean
  /** Whether another is heard, that this could be laid over. */
  canLay: boolean
  only: readonly (readonly number[])[] | null
  beside: { tracks: readonly SheetTrack[]; only: readonly (readonly number[])[] } | null
  nowTick: number | null
}>()
const emit = defineEmits<{ hear: []; lay: []; keep: []; drop: [] }>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
</script>

<template>
  <article class="take" :class="{ heard: isHeard, laid: isLaid }" :data-take="take.number">
    <button
      type="button"
      class="hear"
      :aria-pressed="isHeard"
      @click="(event) => (event.shiftKey && canLay ? emit('lay') : emit('hear'))"
    >
      <span class="head">
        <span class="visually-hidden">Hear </span><b class="named">Take {{ take.number }}</b>
        <span class="soft">dice {{ dice }}</span>
        <span class="soft off" title="How much of it differs from the first take">{{ offSaid(take) }}</span>
        <span v-if="clip !== null" class="kept">kept</span>
      </span>
      <span ref="box" class="notes">
        <NoteSheet
          :name="`take ${take.number}`"
          :tracks="take.tracks"
          :length-ticks="sheet.length_ticks"
          :bar-ticks="barTicks"
          :width="width"
          :height="118"
          :only="only"
          :beside="beside"
          :now-tick="nowTick"
        />
      </span>
      <span class="facts">{{ saidOf(take) }}</span>
    </button>
    <div class="acts">
      <button type="button" class="word-button keep" @click="emit('keep')">
        {{ clip === null ? 'Keep' : 'Keep again' }}
      </button>
      <button
        v-if="canLay"
        v-tip="'Show only what differs from the one that is heard (Shift+click)'"
        type="button"
        class="quiet-button"
        :aria-pressed="isLaid"
        :aria-label="isLaid ? `Take ${take.number} off again` : `Lay take ${take.number} over the one heard`"
        @click="emit('lay')"
      >
        {{ isLaid ? 'Off again' : 'Lay over' }}
      </button>
      <button
        type="button"
        class="quiet-button"
        :aria-label="`Drop take ${take.number}`"
        @click="emit('drop')"
      >
        Drop
      </button>
    </div>
  </article>
</template>

<style scoped>
.take {
  display: grid;
  gap: 6px;
  padding: 10px 12px;
  border: 1.5px solid var(--rule);
  border-radius: 14px;
  background: var(--card);
  min-width: 0;
}
.take.heard {
  border-color: var(--act);
  box-shadow: 0 0 0 1.5px var(--act);
}
.take.laid {
  border: 1.5px dashed var(--ink);
}
.hear {
  display: grid;
  gap: 4px;
  text-align: left;
  cursor: pointer;
  border-radius: 8px;
  min-width: 0;
}
.head {
  display: flex;
  gap: 10px;
  align-items: baseline;
  font-size: 17px;
}
.soft {
  font-size: 14px;
  color: var(--soft-ink);
}
.off {
  margin-left: auto;
}
.kept {
  padding: 0 10px;
  border-radius: 10px;
  background: var(--keep);
  color: #2b2440;
  font-size: 14px;
}
.notes {
  display: block;
  height: 118px;
  overflow: hidden;
  background: color-mix(in srgb, var(--paper) 70%, var(--card));
  border-radius: 8px;
}
.facts {
  font-size: 14px;
}
.acts {
  display: flex;
  gap: 4px;
  align-items: center;
}
.acts .quiet-button:last-child {
  margin-left: auto;
}
.keep {
  border-color: var(--keep);
}
</style>

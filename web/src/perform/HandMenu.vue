<script setup lang="ts">
/** Which control a big hand holds: a lane first, then what of it. */
import { computed, ref } from 'vue'

import { inkOf } from '@/theme/inks'
import { PATTERN_CONTROLS } from '@/work/movements'
import { usePiece } from '@/work/piece'
import { controlsOf, type BigControl } from './controlHandles'

const props = defineProps<{ of: BigControl | null }>()
const emit = defineEmits<{ take: [of: BigControl]; remove: [] }>()
const piece = usePiece()
const lane = ref<string | null>(props.of ? (props.of.lane ?? null) : (piece.lanes[0]?.id ?? null))
const controls = computed(() => {
  const chosen = piece.lanes.find(({ id }) => id === lane.value)
  if (lane.value === null || !piece.pattern) return PATTERN_CONTROLS
  return chosen ? controlsOf(chosen, piece.pattern) : []
})
</script>

<template>
  <div class="card menu" role="dialog" aria-label="What it moves">
    <div class="lanes" role="group" aria-label="Lane">
      <button
        v-for="one in piece.lanes"
        :key="one.id"
        type="button"
        class="word-button"
        :style="{ borderLeft: `8px solid ${inkOf(one.ink)}` }"
        :aria-pressed="one.id === lane"
        @click="lane = one.id"
      >
        {{ one.name }}
      </button>
      <button type="button" class="word-button" :aria-pressed="lane === null" @click="lane = null">
        the pattern
      </button>
    </div>
    <div class="controls" role="group" aria-label="Control">
      <button
        v-for="control in controls"
        :key="control.field"
        type="button"
        class="quiet-button"
        :aria-pressed="of?.control === control.field && (of.lane ?? null) === lane"
        @click="emit('take', { lane, control: control.field })"
      >
        {{ control.name }}
      </button>
    </div>
    <button v-if="of" type="button" class="quiet-button" @click="emit('remove')">Nothing here</button>
  </div>
</template>

<style scoped>
.menu {
  display: grid;
  gap: 12px;
  width: 560px;
  max-height: 80vh;
  overflow-y: auto;
  padding: 16px;
}
.lanes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.lanes [aria-pressed='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 -3px 0 var(--ink);
}
.controls {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  justify-items: start;
}
.controls .quiet-button {
  min-height: 36px;
}
</style>

<script setup lang="ts">
/** Which clips play in place of lanes; one click brings the lanes back. */
import { computed } from 'vue'

import { usePiece } from '@/work/piece'
import { bringLanesBack } from '@/playing/clipsInPlace'

const piece = usePiece()
const kept = computed(() => piece.lanes.flatMap(({ clip }) => (clip ? [clip.name] : [])))
const message = computed(() => {
  const names = [...new Set(kept.value)].map((name) => `“${name}”`).join(', ')
  return `${names} ${kept.value.length === 1 ? 'plays in place of a lane' : `plays in place of ${kept.value.length} lanes`}`
})
</script>

<template>
  <p v-if="kept.length" class="kept" role="status">
    <span>{{ message }}</span>
    <button
      v-tip="'They were set aside, as they stood'"
      type="button"
      class="word-button"
      @click="bringLanesBack"
    >
      Bring the lanes back
    </button>
  </p>
</template>

<style scoped>
.kept {
  grid-column: 1 / -1;
  grid-row: 5;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 24px;
  font-size: 14px;
  border-top: 1.5px solid var(--rule);
  color: var(--act-text);
  font-weight: 600;
}
</style>

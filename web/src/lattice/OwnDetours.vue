<script setup lang="ts">
/** The detours of the pattern itself, in red: they act as long as they stand here. */
import { computed } from 'vue'

import type { Part } from '@/api/client'
import SentenceLine from '@/sentence/SentenceLine.vue'
import { usePiece } from '@/work/piece'

const props = defineProps<{ parts: readonly Part[] }>()
const piece = usePiece()
const own = computed(() =>
  props.parts.filter(({ setting }) => setting.startsWith('detour ') || OF_ALL.has(setting)),
)
/** What acts on the whole pattern beside its detours. */
const OF_ALL = new Set(['transposed', 'moves', 'moved detours'])
const takeAway = ({ plain }: Part) => piece.editPattern('Taken away', (pattern) => ({ ...pattern, ...plain }))
</script>

<template>
  <div v-if="own.length" class="own" data-test="own-detours">
    <span class="named">{{
      own.some(({ setting }) => setting.startsWith('detour ')) ? 'Detour' : 'Pattern'
    }}</span>
    <span v-for="part in own" :key="part.setting" class="one">
      <SentenceLine owner="Pattern" :parts="[part]" />
      <button
        type="button"
        class="quiet-button"
        :aria-label="`${part.setting}: remove`"
        @click="takeAway(part)"
      >
        remove
      </button>
    </span>
  </div>
</template>

<style scoped>
.own {
  grid-column: 1 / -1;
  padding: 2px 12px 2px 24px;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
  font-size: 14px;
}
.one {
  display: flex;
  align-items: baseline;
  gap: 4px;
}
</style>

<script setup lang="ts">
/** Looking around the pattern: a field of candidates beside it, and, on its other face, the grounds. */
import { watch } from 'vue'
import { useRouter } from 'vue-router'

import { isWaiting } from '@/api/policy'
import DetourRow from '@/around/DetourRow.vue'
import { useDetourKeys } from '@/around/useDetourKeys'
import { useDetours } from '@/around/useDetours'
import { useNotices } from '@/page/notices'
import { useShortcuts } from '@/page/useShortcuts'
import { prepareAudio } from '@/playing/audio'
import { usePiece } from '@/work/piece'
import FieldFace from './FieldFace.vue'
import GroundFace from './GroundFace.vue'
import { useFieldSettings } from './useFieldSettings'

const props = defineProps<{ id: number }>()
const piece = usePiece()
const notices = useNotices()
const router = useRouter()
const detours = useDetours()
const settings = useFieldSettings()
useDetourKeys()

watch(
  () => props.id,
  async (id) => {
    try {
      await piece.open(id)
      prepareAudio()
    } catch (reason) {
      notices.complain(reason)
      if (!isWaiting(reason)) void router.replace('/')
    }
  },
  { immediate: true },
)
useShortcuts({
  g: {
    says: 'Field or ground',
    act: () => (settings.face = settings.face === 'field' ? 'ground' : 'field'),
  },
})
</script>

<template>
  <main v-if="piece.document && piece.pattern" class="around">
    <div class="faces" role="group" aria-label="What to look at">
      <button
        type="button"
        class="face named"
        :aria-pressed="settings.face === 'field'"
        @click="settings.face = 'field'"
      >
        Field
      </button>
      <button
        type="button"
        class="face named"
        :aria-pressed="settings.face === 'ground'"
        @click="settings.face = 'ground'"
      >
        Ground
      </button>
    </div>
    <FieldFace v-if="settings.face === 'field'" />
    <GroundFace v-else />
    <DetourRow v-if="detours.isRowOpen" class="detours" :lanes="[]" @close="detours.isRowOpen = false" />
  </main>
  <main v-else class="around" aria-busy="true">Fetching the piece …</main>
</template>

<style scoped>
.around {
  height: 100%;
  min-height: 0;
  padding: 10px 20px 10px;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto auto / auto minmax(0, 1fr) minmax(420px, 34%);
  gap: 8px 20px;
}
.faces {
  display: flex;
  gap: 4px;
}
.face {
  min-height: 36px;
  padding: 0 14px;
  border-radius: 18px;
  font-size: 20px;
  color: var(--soft-ink);
  cursor: pointer;
}
.face[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.detours {
  grid-row: 4;
  padding-inline: 0;
}
@media (max-width: 900px) {
  .around {
    grid-template-columns: auto minmax(0, 1fr) minmax(300px, 46%);
    padding-inline: 12px;
  }
}
</style>

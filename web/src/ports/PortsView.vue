<script setup lang="ts">
/** Ports: the instruments that notes go to, the controllers that play, and what passes between them and here. */
import { watch } from 'vue'
import { useRouter } from 'vue-router'

import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { useSounding } from '@/playing/sounding'
import ControllerFace from './ControllerFace.vue'
import InstrumentList from './InstrumentList.vue'
import LaneRouting from './LaneRouting.vue'
import LearnedTable from './LearnedTable.vue'
import Monitor from './Monitor.vue'

const props = defineProps<{ id: number | null }>()
const piece = usePiece()
const sounding = useSounding()
const notices = useNotices()
const router = useRouter()
watch(
  () => props.id,
  (id) => {
    if (id === null) return
    piece.open(id).catch((reason) => {
      notices.complain(reason)
      void router.replace('/ports')
    })
  },
  { immediate: true },
)
void sounding.start().catch(notices.complain)
</script>

<template>
  <main class="ports">
    <div class="left">
      <InstrumentList />
      <LaneRouting v-if="piece.document && piece.pattern" />
      <p v-else>Open a piece from the shelf to say where its lanes go.</p>
    </div>
    <div class="right">
      <Monitor />
      <ControllerFace />
      <LearnedTable />
    </div>
  </main>
</template>

<style scoped>
.ports {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 440px minmax(0, 1fr);
  gap: 28px;
  padding: 12px 20px;
  overflow-y: auto;
}
.left,
.right {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: 16px;
}
@media (max-width: 1150px) {
  .ports {
    grid-template-columns: 432px minmax(0, 1fr);
    gap: 16px;
    padding: 12px 14px;
  }
}
@media (max-width: 950px) {
  .ports {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

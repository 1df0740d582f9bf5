<script setup lang="ts">
/** Short messages over the foot, each with what can be done about it. */
import { useLongWork } from '@/page/longWork'
import { useNotices } from '@/page/notices'

defineProps<{ aboveDeck: boolean }>()
const notices = useNotices()
const work = useLongWork()
</script>

<template>
  <div class="notices" :class="{ above: aboveDeck }" role="status" aria-live="polite">
    <div v-for="one in work.shown" :key="`work ${one.key}`" class="notice">
      <span>{{ one.saying }}</span>
      <progress :aria-label="one.saying" />
      <button v-if="one.cancel" type="button" class="act" @click="one.cancel()">Cancel</button>
    </div>
    <div v-for="notice in notices.shown" :key="notice.key" class="notice" :class="{ error: notice.isError }">
      <span>{{ notice.text }}</span>
      <button
        v-for="action in notice.actions"
        :key="action.label"
        type="button"
        class="act"
        @click="notices.take(notice.key, action)"
      >
        {{ action.label }}
      </button>
      <button type="button" class="close" aria-label="Close the notice" @click="notices.close(notice.key)">
        ×
      </button>
    </div>
  </div>
</template>

<style scoped>
.notices {
  position: fixed;
  left: 50%;
  bottom: 22px;
  transform: translateX(-50%);
  z-index: 3000;
  display: grid;
  gap: 8px;
  justify-items: center;
  pointer-events: none;
}
.notices.above {
  bottom: 110px;
}
.notice {
  display: flex;
  align-items: center;
  gap: 12px;
  max-width: 760px;
  padding: 8px 10px 8px 18px;
  background: var(--ink);
  color: var(--paper);
  border-radius: 22px;
  font-size: 15px;
  pointer-events: auto;
}
.notice.error {
  background: #8f2413;
  color: #fff;
}
progress {
  width: 90px;
  height: 6px;
  accent-color: var(--keep);
}
.act {
  min-height: 30px;
  padding: 2px 14px;
  border-radius: 15px;
  background: var(--keep);
  color: #2b2440;
  font-weight: 650;
  white-space: nowrap;
  cursor: pointer;
}
.close {
  width: 28px;
  height: 28px;
  font-size: 18px;
  line-height: 1;
  cursor: pointer;
}
</style>

<script setup lang="ts">
/** While something is learned, on whatever screen: what to do next. */
import { useLearning } from '@/hands/learning'

const learning = useLearning()
</script>

<template>
  <div v-if="learning.isOn" class="learn-bar" role="status">
    <span v-if="learning.wanted"
      >Move a knob or strike a pad: it will move <b>{{ learning.targetSaid(learning.wanted) }}</b></span
    >
    <span v-else>Press the control that is to be moved: those that can be learned are marked.</span>
    <button type="button" class="word-button" @click="learning.begin(false)">done (Escape)</button>
  </div>
</template>

<style scoped>
.learn-bar {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 16px;
  min-height: 40px;
  padding: 3px 20px;
  background: var(--keep);
  color: #2b2440;
}
.learn-bar .word-button {
  background: #fdfaf3;
  color: #2b2440;
}
</style>

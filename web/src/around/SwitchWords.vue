<script setup lang="ts">
/** When a pattern that is chosen while another plays takes over, and whether it begins or carries on. */
import { usePlaying } from '@/playing/playing'
import { WHENS, WHERES } from '@/playing/switching'

const playing = usePlaying()
</script>

<template>
  <span class="switch">
    <label>
      the next one
      <select v-model="playing.how.to" class="small-field" aria-label="How the next pattern takes over">
        <option v-for="[to, said] in WHERES" :key="to" :value="to">{{ said }}</option>
      </select>
    </label>
    <select v-model="playing.how.at" class="small-field" aria-label="When the next pattern takes over">
      <option v-for="[at, said] in WHENS" :key="at" :value="at">{{ said }}</option>
    </select>
  </span>
</template>

<style scoped>
.switch {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font-size: 15px;
  color: var(--soft-ink);
}
</style>

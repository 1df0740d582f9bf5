<script setup lang="ts">
/** Progressions to begin with. */
import { ref } from 'vue'

import type { Schemas } from '@/api/client'
import { melody } from '@/engine/melody'
import { useOffer } from '@/page/useLists'

const emit = defineEmits<{ take: [one: Schemas['ProgressionLine']] }>()
const isOpen = ref(false)
const all = useOffer(['progressions'], melody.progressions, isOpen)
const chordsOf = ({ progression }: Schemas['ProgressionLine']) =>
  progression.chords.map(({ chord }) => chord).join(' ')
function take(one: Schemas['ProgressionLine']) {
  isOpen.value = false
  emit('take', one)
}
</script>

<template>
  <button v-tip="'Progressions to begin with'" type="button" class="quiet-button" aria-haspopup="dialog">
    starters
    <v-menu v-model="isOpen" activator="parent" :close-on-content-click="false">
      <div class="card starters" role="group" aria-label="Starter progressions">
        <button v-for="one in all" :key="one.name" type="button" class="one" @click="take(one)">
          <span class="named">{{ one.name }}</span>
          <span class="chords">{{ chordsOf(one) }}</span>
          <span class="explains">{{ one.explains }} · {{ one.scales }}</span>
        </button>
      </div>
    </v-menu>
  </button>
</template>

<style scoped>
.starters {
  width: 640px;
  max-height: 60vh;
  overflow-y: auto;
  padding: 8px;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
}
.one {
  display: grid;
  gap: 3px;
  padding: 8px 10px;
  text-align: left;
  border-radius: 9px;
  cursor: pointer;
}
.one:hover {
  background: color-mix(in srgb, var(--rule) 45%, transparent);
}
.one .named {
  font-size: 16px;
  color: var(--ink);
}
.chords {
  font: 600 15px/1.2 var(--text-font);
  color: var(--ink);
}
.explains {
  font-size: 13px;
  color: var(--soft-ink);
}
</style>

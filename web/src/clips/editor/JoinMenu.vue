<script setup lang="ts">
/** The newest of the other clips: one of them is to come after this one. */
import { shallowRef } from 'vue'

import { clipsApi } from '@/api/clips'
import type { ClipLine } from '@/api/client'
import { useNotices } from '@/page/notices'

const props = defineProps<{ id: number }>()
const emit = defineEmits<{ join: [id: number] }>()
const notices = useNotices()
const others = shallowRef<ClipLine[]>([])

const lookForOthers = () =>
  notices.attempt(async () => {
    others.value = (await clipsApi.list()).clips.filter(({ id }) => id !== props.id)
  })
</script>

<template>
  <button type="button" class="word-button" @click="lookForOthers">
    Join on …
    <v-menu activator="parent" location="top">
      <div class="card others" role="dialog" aria-label="Clips to join">
        <button
          v-for="one in others"
          :key="one.id"
          type="button"
          class="quiet-button"
          @click="emit('join', one.id)"
        >
          {{ one.name }} <small>{{ one.bars }} bars</small>
        </button>
        <p v-if="!others.length" class="soft">There is no other clip.</p>
      </div>
    </v-menu>
  </button>
</template>

<style scoped>
.others {
  display: grid;
  padding: 8px;
  max-height: 360px;
  overflow-y: auto;
}
.others .quiet-button {
  text-align: left;
  min-height: 32px;
}
.soft {
  color: var(--soft-ink);
}
</style>

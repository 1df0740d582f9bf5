<script setup lang="ts">
/** A lane's thread, to be looked at: no hand reaches it. */
import { computed } from 'vue'

import type { LanePicture } from '@/api/client'
import { awayThreadOf } from '@/lattice/geometry/away'
import { keptThreadOf } from '@/lattice/geometry/kept'
import type { TimeScale } from '@/lattice/geometry/scale'
import { threadOf } from '@/lattice/geometry/thread'
import ThreadShapes from '@/lattice/thread/ThreadShapes.vue'
import type { Rendering } from '@/api/client'

const props = defineProps<{
  picture: LanePicture
  scale: TimeScale
  height: number
  ink: string
  away: Rendering['away']
}>()
const thread = computed(() => threadOf(props.picture, props.scale, props.height / 2))
const kept = computed(() =>
  props.picture.kept ? keptThreadOf(props.picture.kept, props.scale, props.height) : null,
)
const away = computed(() =>
  props.away?.length ? awayThreadOf(props.picture, props.away, props.scale, props.height) : null,
)
</script>

<template>
  <svg class="inked drawn" :width="scale.width" :height="height" :style="{ color: ink }" aria-hidden="true">
    <ThreadShapes
      :thread="thread"
      :kept="kept"
      :away="away"
      :has-staff="picture.staff !== null"
      :scale="scale"
      :height="height"
    />
  </svg>
</template>

<style scoped>
.drawn {
  display: block;
}
</style>

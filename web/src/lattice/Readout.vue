<script setup lang="ts">
/** What the keyboard stands on, for those who hear the page: a lane as its sentence says it, a step as it is. */
import { computed } from 'vue'

import type { Lane, LanePicture } from '@/api/client'
import { silentUnder } from './geometry/thread'

const props = defineProps<{ lane: Lane | null; picture: LanePicture | undefined; cursor: number | null }>()
const says = computed(() => {
  const { lane, picture, cursor } = props
  if (!lane || !picture) return ''
  if (cursor === null)
    return `${lane.name}: ${picture.sentence.parts.map(({ words }) => words.map(({ text }) => text).join('')).join(', ')}`
  const hit = picture.hits.findIndex((step) => picture.numbers[step] === cursor)
  const louder = picture.louder[hit]
  const velocity =
    hit < 0 ? '' : `, velocity ${picture.velocities[hit]}${louder ? `, ${silentUnder(louder)}` : ''}`
  return `${lane.name}, step ${cursor + 1} of ${picture.steps}: ${picture.cycle_hits.includes(cursor) ? `hit${velocity}` : 'rest'}`
})
</script>

<template>
  <div class="visually-hidden" role="status" data-test="readout">{{ says }}</div>
</template>

<script setup lang="ts">
/** A place of the trail: what was done there, its first bar in small; its name, and its lanes to be taken from it. */
import { ref, watch } from 'vue'

import type { Pattern, Schemas } from '@/api/client'
import { sayAge } from '@/page/age'
import NameField from '@/page/NameField.vue'
import { useNotices } from '@/page/notices'
import { inkOf } from '@/theme/inks'
import type { Moment } from '@/work/history'
import { usePiece } from '@/work/piece'
import { useTrail } from '@/work/trail'

const props = defineProps<{ moment: Moment; isHere: boolean; isAhead: boolean; isOpened: boolean }>()
const emit = defineEmits<{ go: [moment: Moment] }>()
const piece = usePiece()
const trail = useTrail()
const notices = useNotices()
const cover = ref<Schemas['PlaceCover'] | null>(null)
const [WIDTH, HEIGHT] = [104, 40]

// Only what comes into view is drawn; what is not saved yet has no picture yet.
watch(
  () => [props.moment.number, piece.saveState] as const,
  async ([number], before) => {
    if (before?.[0] === number && cover.value) return
    cover.value = null
    if (piece.saveState !== 'saved') return
    try {
      const found = await trail.coverAt(number)
      if (number === props.moment.number) cover.value = found
    } catch {
      cover.value = null
    }
  },
  { immediate: true },
)
const yOf = (row: number, count: number) => ((row + 0.5) / count) * (HEIGHT - 4) + 2

const isTaking = ref(false)
const there = ref<Pattern | null>(null)
watch(isTaking, async (opens) => {
  if (!opens) return
  try {
    const document = await trail.documentAt(props.moment.number)
    const here = piece.pattern?.id
    there.value = document?.patterns.find(({ id }) => id === here) ?? document?.patterns[0] ?? null
  } catch (reason) {
    notices.complain(reason)
  }
})
/** Take one lane from there into what plays now. */
function take(laneId: string) {
  const lane = there.value?.lanes.find(({ id }) => id === laneId)
  if (!lane) return
  isTaking.value = false
  piece.editLanes(
    `${lane.name} as it was at ${props.moment.name || `place ${props.moment.number}`}`,
    (lanes) =>
      lanes.some(({ id }) => id === laneId)
        ? lanes.map((one) => (one.id === laneId ? { ...lane, mute: one.mute, solo: one.solo } : one))
        : [...lanes, lane],
  )
}
const rename = (name: string) =>
  notices.attempt(async () => {
    await trail.namePlace(props.moment.number, name)
  })
</script>

<template>
  <div class="place" :class="{ here: isHere, ahead: isAhead, opened: isOpened, heard: moment.heard }">
    <button
      type="button"
      class="moment"
      :aria-current="isHere ? 'true' : undefined"
      @click="emit('go', moment)"
    >
      <span class="number">{{ moment.number }}</span>
      <svg :width="WIDTH" :height="HEIGHT" aria-hidden="true">
        <g v-for="(thread, row) in cover?.threads ?? []" :key="row" :fill="inkOf(thread.ink)">
          <circle
            v-for="(at, hit) in thread.hits"
            :key="hit"
            :cx="3 + at * (WIDTH - 6)"
            :cy="yOf(row, cover!.threads.length)"
            :r="Math.min(2.4, 14 / cover!.threads.length)"
          />
        </g>
      </svg>
      <span class="label">
        <b v-if="moment.name" class="named">{{ moment.name }}</b> {{ moment.label }}
      </span>
      <span class="when">{{ isOpened ? 'as I opened it' : moment.at && sayAge(moment.at) }}</span>
    </button>
    <span class="acts">
      <NameField
        :name="moment.name || 'name it'"
        :label="`Name of place ${moment.number}`"
        @rename="rename"
      />
      <button type="button" class="quiet-button" :aria-label="`Take a lane from place ${moment.number}`">
        take a lane
        <v-menu v-model="isTaking" activator="parent">
          <div class="card lanes" role="dialog" aria-label="Lanes of this place">
            <button
              v-for="lane in there?.lanes ?? []"
              :key="lane.id"
              type="button"
              class="quiet-button"
              @click="take(lane.id)"
            >
              {{ lane.name }}
            </button>
          </div>
        </v-menu>
      </button>
    </span>
  </div>
</template>

<style scoped>
.place {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  height: 52px;
  border-radius: 9px;
}
.place:hover,
.place:focus-within {
  background: color-mix(in srgb, var(--rule) 45%, transparent);
}
.moment {
  display: grid;
  grid-template-columns: 40px 104px minmax(0, 1fr) auto;
  align-items: center;
  gap: 10px;
  height: 52px;
  padding: 0 8px 0 2px;
  border-radius: 9px;
  text-align: left;
  font-size: 15px;
  cursor: pointer;
}
svg {
  border-radius: 6px;
  background: var(--paper);
}
.number,
.when {
  font-size: 13px;
  color: var(--soft-ink);
}
.number {
  text-align: right;
}
.label {
  overflow: hidden;
  text-overflow: ellipsis;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  line-height: 1.25;
}
.ahead .label,
.heard .label {
  color: var(--soft-ink);
}
.ahead .label {
  font-style: italic;
}
.opened {
  border-left: 3px solid var(--keep);
}
.here .moment {
  background: var(--ink);
  color: var(--paper);
}
.here .label,
.here .number,
.here .when {
  color: inherit;
}
.acts {
  display: flex;
  align-items: center;
  gap: 2px;
  padding-right: 4px;
  font-size: 14px;
}
.acts :deep(.name-field) {
  width: 104px;
  font: 500 14px/1 var(--text-font);
  color: var(--soft-ink);
}
.place:not(:hover, :focus-within) .acts {
  opacity: 0;
}
.lanes {
  display: grid;
  padding: 6px;
  max-height: 360px;
  overflow-y: auto;
}
.lanes .quiet-button {
  text-align: left;
}
@media (hover: none) {
  .place .acts {
    opacity: 1 !important;
  }
}
</style>

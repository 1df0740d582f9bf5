<script setup lang="ts">
/** How many takes of how many bars, of which lanes: and throw. */
import { computed, ref } from 'vue'

import { Throwing } from '@/api/limits.json'
import { takesApi, type OpenSheet } from '@/api/takes'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

const emit = defineEmits<{ thrown: [sheet: OpenSheet] }>()
const piece = usePiece()
const notices = useNotices()
const count = ref(8)
const bars = ref(4)
const firstBar = ref(1)
/** Lanes that take part, by id; null: all that are not muted. */
const lanes = ref<string[] | null>(null)
const isBusy = ref(false)

const lanesSaid = computed(() => {
  if (lanes.value === null) return 'all lanes'
  const names = piece.lanes.filter(({ id }) => lanes.value?.includes(id)).map(({ name }) => name)
  return names.length > 2 ? `${names.length} lanes` : names.join(' and ') || 'no lane'
})
function turn(id: string) {
  const chosen = lanes.value ?? []
  lanes.value = chosen.includes(id) ? chosen.filter((one) => one !== id) : [...chosen, id]
}

async function throwTakes() {
  const { score, document, pattern } = piece
  if (!score || !document || !pattern || isBusy.value) return
  isBusy.value = true
  try {
    const sheet = await takesApi.throw({
      piece_id: piece.id,
      piece: document.name,
      pattern: pattern.name,
      score,
      dice: piece.dice,
      row: piece.row,
      first_bar: firstBar.value - 1,
      bars: bars.value,
      lanes: lanes.value,
      vary: 0,
      count: count.value,
    })
    emit('thrown', sheet)
  } catch (reason) {
    notices.complain(reason, { label: 'Try again', act: throwTakes })
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <form v-if="piece.document" class="throw" @submit.prevent="throwTakes">
    <span
      >Of <b>{{ piece.document.name }}</b>, pattern <b>{{ piece.pattern?.name }}</b>, as it stands:</span
    >
    <label>
      <input
        v-model.number="count"
        class="small-field"
        type="number"
        v-bind="Throwing.count"
        required
        aria-label="Takes"
      />
      takes of
    </label>
    <label>
      <input
        v-model.number="bars"
        class="small-field"
        type="number"
        v-bind="Throwing.bars"
        required
        aria-label="Bars of a take"
      />
      bars from bar
    </label>
    <label>
      <input
        v-model.number="firstBar"
        class="small-field"
        type="number"
        min="1"
        required
        aria-label="First bar"
      />
    </label>
    <button type="button" class="word-button" :aria-label="`Lanes that take part: ${lanesSaid}`">
      {{ lanesSaid }}
      <v-menu activator="parent" :close-on-content-click="false">
        <div class="card lanes" role="dialog" aria-label="Lanes to throw">
          <button type="button" class="quiet-button" :aria-pressed="lanes === null" @click="lanes = null">
            {{ lanes === null ? '✓ ' : '' }}all that are not muted
          </button>
          <button
            v-for="lane in piece.lanes"
            :key="lane.id"
            type="button"
            class="quiet-button"
            :aria-pressed="lanes?.includes(lane.id) ?? false"
            @click="turn(lane.id)"
          >
            {{ lanes?.includes(lane.id) ? '✓ ' : '' }}{{ lane.name }}
          </button>
        </div>
      </v-menu>
    </button>
    <button type="submit" class="word-button strong" :disabled="isBusy || lanes?.length === 0">
      {{ isBusy ? 'Throwing …' : 'Throw' }}
    </button>
  </form>
  <p v-else class="soft">Open a piece from the <RouterLink to="/">shelf</RouterLink> to throw takes of it.</p>
</template>

<style scoped>
.throw {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.lanes {
  display: grid;
  padding: 8px;
  max-height: 420px;
  overflow-y: auto;
}
.lanes .quiet-button {
  text-align: left;
}
.soft,
.soft a {
  color: var(--soft-ink);
}
</style>

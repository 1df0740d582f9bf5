<script setup lang="ts">
/** Where there is no lane yet: three ways to begin, each heard before it is taken. */
import { computed } from 'vue'

import { library, type ListedStarter } from '@/api/library'
import { useList } from '@/page/useLists'
import { useBeginning } from './useBeginning'

const emit = defineEmits<{ add: [] }>()
const { lines } = useList(['starters'], library.starters)
const { heard, hear, letGo, take } = useBeginning(() => null)

const ofKind = (kind: ListedStarter['kind'], most = 8) =>
  lines.value.filter((one) => one.kind === kind).slice(0, most)
const ways = computed(() => [
  {
    name: 'A starter',
    says: 'A few lanes, ready to be made your own.',
    rows: [
      { name: 'Whole pieces', starters: ofKind('piece') },
      { name: 'Beats', starters: ofKind('pattern', 7) },
    ],
  },
  {
    name: 'A ground',
    says: 'A map of grooves: drag to move all lanes from one to another.',
    rows: [{ name: '', starters: ofKind('ground') }],
  },
])
</script>

<template>
  <section class="empty" aria-labelledby="begin">
    <h2 id="begin">How do you want to begin?</h2>
    <div class="ways">
      <section v-for="way in ways" :key="way.name" class="card way" :aria-label="way.name">
        <h3 class="named">{{ way.name }}</h3>
        <p>{{ way.says }}</p>
        <div v-for="row in way.rows" :key="row.name" class="starters">
          <span v-if="row.name" class="row-name">{{ row.name }}</span>
          <button
            v-for="one in row.starters"
            :key="`${one.id} ${one.starter.name}`"
            type="button"
            class="word-button"
            :aria-pressed="one === heard"
            :aria-label="`Hear ${one.starter.name}`"
            @click="one === heard ? letGo() : hear(one)"
          >
            {{ one.starter.name }}
          </button>
        </div>
        <button
          v-if="heard && way.rows.some(({ starters }) => starters.includes(heard!))"
          type="button"
          class="word-button strong"
          @click="take(heard)"
        >
          Begin with {{ heard.starter.name }}
        </button>
        <p v-else class="hint">Click one to hear it.</p>
      </section>
      <section class="card way" aria-label="An empty lane">
        <h3 class="named">An empty lane</h3>
        <p>One voice, 3 hits in 8 steps. Drag the numbers under its name to change it.</p>
        <button type="button" class="word-button strong" @click="emit('add')">Add a lane</button>
      </section>
    </div>
  </section>
</template>

<style scoped>
.empty {
  padding: 12px 24px 16px;
  display: grid;
  gap: 10px;
}
.ways {
  display: grid;
  grid-template-columns: 2.4fr 1.4fr 1fr;
  gap: 14px;
}
.way {
  padding: 10px 16px 12px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 6px;
}
h2 {
  font-size: 20px;
}
h3 {
  margin: 0;
  font-size: 17px;
}
.starters {
  position: relative;
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.starters:has(.row-name) {
  min-height: 36px; /* as high before its starters have come */
  padding-left: 92px;
}
.row-name {
  position: absolute;
  left: 0;
  padding-top: 7px;
  font-size: 14px;
  color: var(--soft-ink);
}
.way > :last-child {
  margin-top: auto;
}
.word-button {
  padding-inline: 10px;
}
.word-button[aria-pressed='true'] {
  background: var(--keep);
  border-color: var(--ink);
  color: #2b2440;
}
p {
  font-size: 14px;
  line-height: 19px;
}
.hint {
  min-height: 32px;
  color: var(--soft-ink);
}
</style>

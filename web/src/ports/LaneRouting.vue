<script setup lang="ts">
/** Where the notes of each lane go: its port, its channel, what its instrument is to choose. */
import { computed } from 'vue'

import { Program } from '@/api/limits.json'
import type { Lane } from '@/api/client'
import { engine } from '@/engine/engine'
import { useNotices } from '@/page/notices'
import { usePorts } from '@/playing/ports'
import { BUILT_IN } from '@/sound/port'
import { inkOf } from '@/theme/inks'
import { usePiece } from '@/work/piece'

const ports = usePorts()
const piece = usePiece()
const notices = useNotices()
const kit = computed(() => piece.document?.kit ?? null)

function setKitPort(event: Event) {
  const port = valueOf(event)
  piece.edit(`Kit: to ${port}`, (document) => ({
    ...document,
    kit: { ...document.kit, port: port === BUILT_IN ? null : port },
  }))
}
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value
const setPort = (lane: Lane, event: Event) => {
  const port = valueOf(event) || null
  piece.editLane(lane.id, `${lane.name}: to ${port ?? 'its plain port'}`, (one) => ({ ...one, port }))
}
const setChannel = (lane: Lane, event: Event) => {
  const channel = Number(valueOf(event)) || null
  piece.editLane(lane.id, `${lane.name}: channel ${channel ?? 'of its voice'}`, (one) => ({
    ...one,
    channel,
  }))
}
function setProgram(lane: Lane, event: Event) {
  const number = Math.round(Number((event.target as HTMLInputElement).value))
  const program =
    number >= Program.number.min && number <= Program.number.max
      ? { bank: null, ...lane.program, number }
      : null
  piece.editLane(lane.id, `${lane.name}: program ${program?.number ?? 'as it stands'}`, (one) => ({
    ...one,
    program,
  }))
}
const aChannelEach = () =>
  notices.attempt(async () => {
    await piece.editLanesAsAnswered(
      'A channel each',
      async () => new Map(Object.entries(await engine.channels())),
    )
  })
</script>

<template>
  <section class="routing" aria-label="Where lanes go">
    <header>
      <h2>Pattern {{ piece.pattern?.name }}: where lanes go</h2>
      <button
        v-tip="'Channels 1 to 16 in the order of the lanes; pressed again, the voices’ own'"
        type="button"
        class="word-button"
        @click="aChannelEach"
      >
        a channel each
      </button>
    </header>
    <table>
      <thead>
        <tr>
          <th>lane</th>
          <th>port</th>
          <th>channel</th>
          <th>program</th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="kit" class="kit">
          <th v-tip="`The kit: its voices go there`" scope="row">{{ kit.name }}</th>
          <td>
            <select
              class="small-field"
              :value="kit.port ?? BUILT_IN"
              aria-label="Port of the kit"
              @change="setKitPort"
            >
              <option v-for="name in ports.names" :key="name" :value="name">{{ name }}</option>
            </select>
          </td>
          <td>{{ kit.channel }}</td>
          <td />
        </tr>
        <tr v-for="lane in piece.lanes" :key="lane.id">
          <th scope="row" :style="{ '--lane-ink': inkOf(lane.ink) }">{{ lane.name }}</th>
          <td>
            <select
              class="small-field"
              :value="lane.port ?? ''"
              :aria-label="`Port of ${lane.name}`"
              @change="setPort(lane, $event)"
            >
              <option value="">as its voice</option>
              <option v-for="name in ports.names" :key="name" :value="name">{{ name }}</option>
            </select>
          </td>
          <td>
            <select
              class="small-field"
              :value="lane.channel ?? ''"
              :aria-label="`Channel of ${lane.name}`"
              @change="setChannel(lane, $event)"
            >
              <option value="">voice</option>
              <option v-for="number in 16" :key="number" :value="number">{{ number }}</option>
            </select>
          </td>
          <td>
            <input
              v-shown="lane.program?.number ?? ''"
              class="small-field"
              type="number"
              v-bind="Program.number"
              placeholder="–"
              :aria-label="`Program of ${lane.name}`"
              @change="setProgram(lane, $event)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
h2 {
  font-size: 19px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
thead th {
  padding: 4px 4px;
  text-align: left;
  font: 500 13px/1.3 var(--text-font);
  color: var(--soft-ink);
}
tbody th {
  max-width: 120px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 0 6px 0 8px;
  text-align: left;
  font: 650 15px/1.2 var(--name-font);
  border-left: 6px solid var(--lane-ink, var(--ink));
}
td {
  padding: 2px 4px;
}
td select {
  width: 148px;
}
td:nth-child(3) select {
  width: 72px;
}
td:nth-child(4) input {
  width: 58px;
}
.kit td:nth-child(3) {
  padding-left: 12px;
}
</style>

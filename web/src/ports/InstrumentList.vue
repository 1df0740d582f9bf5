<script setup lang="ts">
/** The instruments that notes can go to, and the clock that runs between them and here. */
import { computed, ref } from 'vue'

import { usePorts } from '@/playing/ports'
import type { Mood } from '@/sound/midi/instrument'
import { BUILT_IN, SIMULATED } from '@/sound/port'
import { useLive } from '@/work/live'
import { useTransport } from '@/playing/transport'
import { useSounding } from '@/playing/sounding'

const ports = usePorts()
const sounding = useSounding()
const transport = useTransport()
const live = useLive()
const MOODS: readonly (readonly [Mood, string, string])[] = [
  ['well', 'obeys', 'It takes messages and obeys them at their times'],
  ['slow', 'slow', 'It obeys everything a little late'],
  ['full', 'full', 'It refuses messages, as one whose buffer is full'],
  ['gone', 'gone', 'As if its cable had been pulled'],
]
const missing = computed(() =>
  ports.names.filter((name) => name !== BUILT_IN && !ports.outs.get(name)?.isThere),
)
const own = computed(() => [...ports.outs.values()].filter(({ name }) => name !== SIMULATED))
const isAsking = ref(false)
const refusal = ref('')
async function ask() {
  isAsking.value = true
  refusal.value = ''
  try {
    await ports.ask(await sounding.start())
  } catch (reason) {
    refusal.value = reason instanceof Error ? reason.message : String(reason)
  } finally {
    isAsking.value = false
  }
}
function toggleClock(name: string) {
  const { clockTo } = ports
  ports.clockTo = clockTo.includes(name) ? clockTo.filter((one) => one !== name) : [...clockTo, name]
}
</script>

<template>
  <section class="instruments" aria-label="Instruments">
    <h2>Instruments</h2>
    <ul>
      <li>
        <span class="named">{{ BUILT_IN }}</span>
        <small>always there</small>
      </li>
      <li v-if="ports.outs.get(SIMULATED)">
        <span class="named">{{ SIMULATED }}</span>
        <span class="moods" role="group" aria-label="The simulated instrument">
          <button
            v-for="[mood, said, explains] in MOODS"
            :key="mood"
            v-tip="explains"
            type="button"
            class="pill"
            :aria-pressed="ports.mood === mood"
            @click="ports.setMood(mood)"
          >
            {{ said }}
          </button>
        </span>
        <label class="clock">
          <input
            type="checkbox"
            :checked="ports.clockTo.includes(SIMULATED)"
            @change="toggleClock(SIMULATED)"
          />
          clock
        </label>
      </li>
      <li v-for="out in own" :key="out.name">
        <span class="named">{{ out.name }}</span>
        <small :class="{ alarm: out.trouble }">{{ out.trouble || 'at this computer' }}</small>
        <label class="clock">
          <input
            type="checkbox"
            :checked="ports.clockTo.includes(out.name)"
            @change="toggleClock(out.name)"
          />
          clock
        </label>
      </li>
      <li v-for="name in missing.filter((one) => !ports.outs.has(one))" :key="name">
        <span class="named">{{ name }}</span>
        <small class="alarm">not here: the built-in sounds play for it</small>
      </li>
    </ul>
    <div v-if="!ports.access" class="own">
      <button type="button" class="word-button strong" :disabled="isAsking" @click="ask">
        {{ isAsking ? 'Asking the browser …' : 'Use my instruments and controllers' }}
      </button>
      <p v-if="refusal" class="alarm" role="alert">{{ refusal }}</p>
      <p v-else>
        The browser asks whether this page may use the MIDI at this computer. Nothing else is opened.
      </p>
    </div>
    <div class="from">
      <label>
        The clock comes from
        <select v-model="ports.clockFrom" class="small-field" aria-label="Where the clock comes from">
          <option value="">here</option>
          <option v-for="name in ports.inputs" :key="name" :value="name">{{ name }}</option>
        </select>
      </label>
      <span v-if="ports.clockFrom" :class="{ alarm: !ports.isClockThere }" role="status" data-test="clock">{{
        ports.isClockThere ? `${live.clockTempo ?? '…'} quarters a minute` : 'no clock comes from there'
      }}</span>
      <button
        v-tip="'End every note at every port, at once (Shift+Escape)'"
        type="button"
        class="word-button panic"
        @click="transport.panic"
      >
        Silence everything
      </button>
    </div>
  </section>
</template>

<style scoped>
.instruments {
  display: grid;
  gap: 8px;
}
h2 {
  font-size: 19px;
}
ul {
  list-style: none;
  border-top: 1.5px solid var(--ink);
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 2px 10px;
  min-height: 38px;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
.named {
  font-size: 16px;
}
small {
  font-size: 14px;
  color: var(--soft-ink);
}
.alarm {
  color: var(--act-text);
  font-weight: 600;
}
.moods {
  display: flex;
  margin: 0 -6px;
}
.clock {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 28px;
  font-size: 14px;
  cursor: pointer;
}
.clock input {
  appearance: auto;
  width: 18px;
  height: 18px;
  accent-color: var(--ink);
}
.own p {
  margin-top: 4px;
  font-size: 14px;
  color: var(--soft-ink);
}
.own p.alarm {
  color: var(--act-text);
}
.from {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
}
.from select {
  margin-left: 6px;
}
.panic {
  margin-left: auto;
}
</style>

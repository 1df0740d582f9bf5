<script setup lang="ts">
/** What the simulated instrument was sent, as a picture in time and as text; recorded to a MIDI file. */
import { useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'

import { portsApi } from '@/api/ports'
import { melody } from '@/engine/melody'
import { useOffer } from '@/page/useLists'
import { saveFile } from '@/page/saveFile'
import { useNotices } from '@/page/notices'
import { usePorts } from '@/playing/ports'
import { stillSounding, type ReceivedMessage } from '@/sound/midi/instrument'
import { SYSTEM } from '@/sound/midi/messages'
import { SIMULATED } from '@/sound/port'
import { inkOf } from '@/theme/inks'
import { usePiece } from '@/work/piece'
import { useSounding } from '@/playing/sounding'
import { drawnOf, FILTERS, filterOf, linesOf, pathsOf, spread, type Filter } from './monitor'

const LINES = 60
const SECONDS = 8
const [WIDTH, HEIGHT] = [1000, 150]
const ports = usePorts()
const piece = usePiece()
const { start } = useSounding()
const notices = useNotices()

const hidden = useLocalStorage<Filter[]>('jolly-lattice-monitor-hidden', ['clock'])
const isShown = (filter: Filter) => !hidden.value.includes(filter)
const toggle = (filter: Filter) =>
  (hidden.value = isShown(filter) ? [...hidden.value, filter] : hidden.value.filter((one) => one !== filter))

const isPaused = ref(false)
/** What is on show, and when it was looked at. */
const taken = shallowRef<readonly ReceivedMessage[]>([])
const now = ref(0)
const late = ref(0)
function look() {
  if (isPaused.value || !ports.instrument) return
  const all = ports.instrument.gather()
  const hasPlayed = all.at(-1) !== taken.value.at(-1)
  taken.value = all
  late.value = ports.outs.get(SIMULATED)?.port.late ?? 0
  if (hasPlayed || now.value - (all.at(-1)?.time ?? 0) < SECONDS) now.value = ports.clock()?.now() ?? 0
}
useIntervalFn(look, 80)
const shown = computed(() => taken.value.filter(({ message }) => isShown(filterOf(message))))
const keys = useOffer(
  () => ['keyboard', null, null],
  () => melody.keyboard(null),
)
const lines = computed(() => linesOf(shown.value, LINES, (pitch) => keys.value?.[pitch]?.name ?? `${pitch}`))
const from = computed(() => now.value - SECONDS)
const drawn = computed(() => spread(drawnOf(recent(shown.value), from.value)))
/** What may still be seen: a note that sounds may have begun long ago. */
const recent = (all: readonly ReceivedMessage[]) => all.slice(-2000)
const inks = computed(() => {
  const x = (time: number) =>
    Math.round(Math.max(0, Math.min(WIDTH, ((time - from.value) / SECONDS) * WIDTH)))
  const y = (share: number) => Math.round(HEIGHT - 10 - share * (HEIGHT - 20))
  return pathsOf(drawn.value, ({ filter, start, end, share }) => {
    const left = x(start)
    if (filter === 'notes') return `M${left} ${y(share)}H${Math.max(left + 3, x(end ?? now.value))}`
    return filter === 'clock' ? `M${left} ${HEIGHT - 6}V${HEIGHT}` : `M${left} ${HEIGHT}V${y(share)}`
  })
})
const sounding = computed(() => stillSounding(recent(taken.value).filter(({ time }) => time <= now.value)))

// ---- Recording: it goes on while one looks elsewhere ----
async function record() {
  if (ports.recording) return keep(ports.recording)
  const { clock } = await start() // there is nothing to listen to before
  ports.recording = { began: clock.now(), taken: [] }
}
/** Where the file cannot be written, it goes on recording: nothing is lost. */
async function keep({ began, taken: all }: { began: number; taken: readonly ReceivedMessage[] }) {
  const messages = all.filter(({ message }) => (message[0] ?? 0) < SYSTEM)
  if (!messages.length) {
    ports.recording = null
    return notices.say('Nothing was sent while it recorded: send a lane there first.')
  }
  const tempo = piece.score?.tempo ?? 120
  const name = `${(piece.document?.name ?? 'Simulated instrument').slice(0, 70)} as sent`
  const rows = messages.map(({ message, time }): [number, number[]] => [
    Number(Math.max(0, time - began).toFixed(7)),
    [...message],
  ])
  await notices.attempt(async () => {
    saveFile(await portsApi.recorded({ name, tempo, messages: rows }), `${name}.mid`)
    ports.recording = null
  })
}
function forget() {
  ports.instrument?.forget()
  taken.value = []
}
</script>

<template>
  <section class="monitor" aria-label="Monitor of the simulated instrument">
    <header>
      <h2>Simulated instrument</h2>
      <span class="count" data-test="sounding">{{ sounding.length }} sounding</span>
      <span v-if="late" v-tip="'Handed over after their times: the machine was busy'" class="count"
        >{{ late.toLocaleString('en') }} late</span
      >
      <span class="gap" />
      <button type="button" class="word-button" :aria-pressed="isPaused" @click="isPaused = !isPaused">
        {{ isPaused ? 'go on' : 'pause' }}
      </button>
      <button type="button" class="word-button" @click="forget">clear</button>
      <button
        v-tip="'All that is sent from now on, as a MIDI file'"
        type="button"
        class="word-button"
        :class="{ act: ports.recording }"
        :aria-pressed="ports.recording !== null"
        @click="record"
      >
        {{ ports.recording ? 'stop, save the MIDI file' : 'record' }}
      </button>
    </header>
    <div class="filters" role="group" aria-label="Shown">
      <span>shows</span>
      <button
        v-for="filter in FILTERS"
        :key="filter"
        type="button"
        class="pill"
        :aria-pressed="isShown(filter)"
        @click="toggle(filter)"
      >
        {{ filter }}
      </button>
    </div>
    <svg
      class="picture"
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      preserveAspectRatio="none"
      role="img"
      :aria-label="`Messages of the last ${SECONDS} seconds`"
    >
      <line
        v-for="second in SECONDS"
        :key="second"
        class="second"
        :x1="(second * WIDTH) / SECONDS"
        :x2="(second * WIDTH) / SECONDS"
        y1="0"
        :y2="HEIGHT"
      />
      <path
        v-for="one in inks"
        :key="`${one.filter} ${one.channel}`"
        :class="one.filter === 'notes' ? 'note' : one.filter === 'clock' ? 'pulse' : 'move'"
        :d="one.path"
        :stroke="inkOf(one.channel - 1)"
      />
    </svg>
    <div class="lines" role="log" aria-live="off" aria-label="Messages, the newest first" tabindex="0">
      <table v-if="lines.length">
        <tbody>
          <tr v-for="line in lines" :key="line.key">
            <td class="time">{{ line.time }}</td>
            <td>{{ line.channel ? `ch. ${line.channel}` : '' }}</td>
            <td class="kind">{{ line.name }}</td>
            <td>{{ line.says }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else>
        Nothing was sent yet. Send a lane here, on the left, and press play: each message is shown as an
        instrument of yours would get it.
      </p>
    </div>
  </section>
</template>

<style scoped>
.monitor {
  display: grid;
  gap: 8px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
}
h2 {
  font-size: 19px;
}
.count {
  color: var(--soft-ink);
}

.filters {
  display: flex;
  align-items: center;
  gap: 4px;
  color: var(--soft-ink);
}
.gap {
  flex: 1;
}
.act {
  background: var(--act-text);
  border-color: var(--act-text);
  color: #fff;
}
.picture {
  width: 100%;
  height: 112px;
  background: var(--card);
  border: 1.5px solid var(--rule);
  border-radius: 10px;
}
.second {
  stroke: var(--rule);
  vector-effect: non-scaling-stroke;
}
.note {
  stroke-width: 5;
  stroke-linecap: round;
  vector-effect: non-scaling-stroke;
}
.move {
  stroke-width: 1.5;
  stroke-dasharray: 3 2;
  fill: none;
  opacity: 0.75;
  vector-effect: non-scaling-stroke;
}
.pulse {
  stroke: var(--soft-ink);
  vector-effect: non-scaling-stroke;
}
.lines {
  height: 122px;
  overflow-y: auto;
  border-block: 1.5px solid var(--rule);
}
.lines p {
  padding: 20px 0;
  color: var(--soft-ink);
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 14px;
}
td {
  padding: 1px 10px 1px 0;
  white-space: nowrap;
}
td:last-child {
  width: 100%;
}
.time {
  color: var(--soft-ink);
  text-align: right;
}
.kind {
  font-weight: 600;
}
</style>

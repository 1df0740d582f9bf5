<script setup lang="ts">
/** Takes side by side: hear one in the running loop, lay another over it, keep what is worth it. */
import { useDebounceFn } from '@vueuse/core'
import { useLoops } from '@/playing/loops'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { More, Throwing } from '@/api/limits.json'
import type { Schemas } from '@/api/client'
import { takesApi, type DrawnTake, type OpenSheet, type SheetLine } from '@/api/takes'
import { loopOfTake } from '@/clips/loopOf'
import NumberWord from '@/sentence/NumberWord.vue'
import { numberWord } from '@/sentence/number'
import { useFrames } from '@/page/useFrames'
import { useOwnPlay } from '@/playing/useOwnPlay'
import { useShortcuts } from '@/page/useShortcuts'
import { sayAge } from '@/page/age'
import { barsSaid, ticksOfBar } from '@/sound/time'
import { useNotices } from '@/page/notices'
import { useList } from '@/page/useLists'
import { ORDERS, sorted, type Order } from './sorting'
import TakeCard from './TakeCard.vue'
import ThrowBar from './ThrowBar.vue'
import { useSheet } from './useSheet'
import { useTakeActions } from './useTakeActions'

const props = defineProps<{ id: number | null }>()
const router = useRouter()
const notices = useNotices()
const loops = useLoops()
const { lines: sheets, isLoaded, again: load } = useList(['take sheets'], takesApi.list)
watch(
  [sheets, () => props.id],
  ([[first], id]) => {
    if (id === null && first) void router.replace(`/takes/${first.id}`)
  },
  { immediate: true },
)
const ownSheet = useSheet(() => props.id)
const { sheet, takes, progress } = ownSheet
const order = ref<Order>('number')
const more = ref(8)
const shown = computed(() => sorted(takes.value, order.value))

async function thrown(fresh: OpenSheet) {
  void load()
  await router.push(`/takes/${fresh.sheet.id}`)
}
const barTicks = computed(() => (sheet.value ? ticksOfBar(sheet.value.meter) : 1))
const barsOf = ({ first_bar, bars }: SheetLine) => barsSaid(first_bar, bars)

// ---- Hearing ----
const nameOf = (number: number) => `take ${props.id} ${number}`
const heard = computed(() => {
  const [kind, id, number] = loops.looping.split(' ')
  return kind === 'take' && Number(id) === props.id ? Number(number) : null
})
/** The take that the arrow keys stand at: the one heard last. */
const at = ref<number | null>(null)
function hear({ number }: DrawnTake) {
  if (heard.value === number) return loops.stop()
  laid.value = null
  void start(number)
}
function start(number: number) {
  const one = takes.value.find((take) => take.number === number)
  if (!one || !sheet.value) return
  at.value = number
  const openSheet = sheet.value
  return loops.play(nameOf(number), () => loopOfTake(one, openSheet))
}
useOwnPlay(() => start(at.value ?? shown.value[0]?.number ?? 1))
function walk(by: number) {
  const place = shown.value.findIndex(({ number }) => number === at.value)
  const next = shown.value[Math.max(0, Math.min(shown.value.length - 1, place + by))]
  if (!next) return
  laid.value = null
  void start(next.number)
  document.querySelector(`[data-take="${next.number}"]`)?.scrollIntoView({ block: 'nearest' })
}
const nowTick = ref(0)
useFrames(
  () => (nowTick.value = loops.player?.nowTick ?? 0),
  () => heard.value !== null,
  () => heard.value,
  30,
)

// ---- What differs ----
const laid = ref<number | null>(null)
const differences = shallowRef<Schemas['Differences'] | null>(null)
watch([heard, laid], async ([one, other], _before, onCleanup) => {
  differences.value = null
  if (one === null || other === null || props.id === null) return
  let isOld = false
  onCleanup(() => (isOld = true))
  try {
    const answer = await takesApi.differences(props.id, one, other)
    if (!isOld) differences.value = answer
  } catch (reason) {
    notices.complain(reason)
  }
})
const lay = (number: number) => (laid.value = laid.value === number ? null : number)
const besideOf = (number: number) => {
  const other = takes.value.find((one) => one.number === laid.value)
  if (number !== heard.value || !other || !differences.value) return null
  return { tracks: other.tracks, only: differences.value.only_other }
}

// ---- Keeping, dropping ----
const { keep, drop, throwMore, vary, remove } = useTakeActions({
  id: () => props.id,
  sheet: ownSheet,
  sheets,
  readSheets: load,
  nameOf,
})
const VARIED = 20
const isAllTheSame = computed(() => sheet.value !== null && !sheet.value.is_lucky && !sheet.value.vary)
const varyWord = computed(() => numberWord('vary', sheet.value?.vary || VARIED, { ...Throwing.vary, min: 1 }))
const varySoon = useDebounceFn(vary, 300)

const ofHeard = (act: (number: number) => unknown) => () => at.value !== null && act(at.value)
useShortcuts({
  'ArrowRight': { says: 'Hear the next take', act: () => walk(1) },
  'ArrowLeft': { says: 'Hear the take before', act: () => walk(-1) },
  'ArrowDown': { says: '', act: () => walk(3) },
  'ArrowUp': { says: '', act: () => walk(-3) },
  'Enter': { says: 'Keep the take', act: ofHeard(keep) },
  'Delete': { says: 'Drop the take', act: ofHeard(drop) },
}) // prettier-ignore
</script>

<template>
  <main class="takes">
    <aside aria-label="Sheets of takes">
      <h1>Takes</h1>
      <RouterLink
        v-for="line in sheets"
        :key="line.id"
        :to="`/takes/${line.id}`"
        class="sheet-line"
        :class="{ here: line.id === id }"
      >
        <b class="named">{{ line.piece }} {{ line.pattern }}</b>
        <span>{{ line.takes }} takes · {{ barsOf(line) }}</span>
        <span class="soft">{{ sayAge(line.created_at) }}</span>
      </RouterLink>
    </aside>
    <section>
      <ThrowBar @thrown="thrown" />
      <header v-if="sheet">
        <p>
          <b>{{ sheet.sheet.piece }}, pattern {{ sheet.sheet.pattern }}</b
          >, {{ barsOf(sheet.sheet) }}, {{ sheet.tempo }} BPM<template v-if="sheet.lane_names">
            · only {{ sheet.lane_names.join(', ') }}</template
          >
        </p>
        <label>
          sorted by
          <select v-model="order" class="small-field" aria-label="Sorted by">
            <option v-for="(one, key) in ORDERS" :key="key" :value="key">{{ one.says }}</option>
          </select>
        </label>
        <form @submit.prevent="throwMore(more)">
          <input
            v-model.number="more"
            class="small-field"
            type="number"
            v-bind="More.count"
            required
            aria-label="More takes"
          />
          <button type="submit" class="word-button">Throw more</button>
        </form>
        <button type="button" class="quiet-button" @click="remove(sheet.sheet)">Delete these</button>
      </header>
      <p v-if="isAllTheSame" class="vary" role="status">
        Dice have no say in this pattern: every take of it is the same.
        <button type="button" class="word-button" @click="vary(VARIED)">Vary them by {{ VARIED }} %</button>
      </p>
      <p v-else-if="sheet?.vary" class="vary">
        Each take but the first moves
        <NumberWord
          :word="varyWord"
          owner="Takes"
          explains="How many of the hits a throw of each take's own moves"
          @move="(value) => varySoon(Number(value))"
        />
        % of the hits.
        <button type="button" class="quiet-button" @click="vary(0)">none</button>
      </p>
      <p v-if="progress" class="progress" role="status">
        <progress :value="progress.done" :max="progress.total" /> {{ progress.done }} of
        {{ progress.total }} takes
      </p>
      <div v-if="sheet" class="grid">
        <TakeCard
          v-for="one in shown"
          :key="one.number"
          :take="one"
          :sheet="sheet"
          :bar-ticks="barTicks"
          :dice="sheet.takes.find(({ number }) => number === one.number)?.dice ?? 0"
          :clip="sheet.takes.find(({ number }) => number === one.number)?.clip ?? null"
          :is-heard="one.number === heard"
          :is-laid="one.number === laid"
          :can-lay="heard !== null && heard !== one.number"
          :only="one.number === heard ? (differences?.only_one ?? null) : null"
          :beside="besideOf(one.number)"
          :now-tick="one.number === heard ? nowTick : null"
          @hear="hear(one)"
          @lay="lay(one.number)"
          @keep="keep(one.number)"
          @drop="drop(one.number)"
        />
      </div>
      <div v-else-if="isLoaded && !sheets.length" class="empty">
        <h2>No takes yet</h2>
        <p>
          A take is some bars of a pattern, thrown by a dice number of its own. Throw eight of them at once,
          hear them in turn, and keep those that are worth it.
        </p>
      </div>
    </section>
  </main>
</template>

<style scoped>
.takes {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 232px 1fr;
}
aside {
  overflow-y: auto;
  padding: 18px 12px 24px 20px;
  border-right: 1.5px solid var(--rule);
  display: grid;
  align-content: start;
  gap: 6px;
}
h1 {
  font-size: 28px;
  margin-bottom: 8px;
}
.sheet-line {
  display: grid;
  padding: 8px 12px;
  border-radius: 12px;
  border: 1.5px solid transparent;
  color: var(--ink);
  text-decoration: none;
  font-size: 14px;
  line-height: 19px;
}
.sheet-line b {
  font-size: 16px;
}
.sheet-line:hover {
  border-color: var(--rule);
}
.sheet-line.here {
  background: var(--card);
  border-color: var(--ink);
}
.soft {
  color: var(--soft-ink);
}
section {
  overflow-y: auto;
  padding: 16px 24px 40px;
  display: grid;
  align-content: start;
  gap: 12px;
}
.vary {
  display: flex;
  align-items: baseline;
  gap: 8px;
  font-size: 15px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: center;
  padding-top: 10px;
  border-top: 1.5px solid var(--rule);
}
header p {
  margin-right: auto;
}
form {
  display: flex;
  gap: 6px;
}
.progress {
  display: flex;
  gap: 12px;
  align-items: center;
}
progress {
  accent-color: var(--act);
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
  gap: 12px;
}
.empty {
  display: grid;
  gap: 12px;
  max-width: 520px;
  padding: 40px 0;
}
</style>

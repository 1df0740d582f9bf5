<script setup lang="ts">
/** Looking around the pattern: a field of candidates beside it, and, on its other face, the grounds. */
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useTheme } from 'vuetify'

import type { Lane, Pattern } from '@/api/client'
import { isWaiting } from '@/api/policy'
import { takesApi } from '@/api/takes'
import DetourRow from '@/around/DetourRow.vue'
import { useDetourKeys } from '@/around/useDetourKeys'
import { useDetours } from '@/around/useDetours'
import { aroundApi, type GroundId } from '@/engine/around'
import { useRendering } from '@/engine/useRendering'
import { useChosenLanes } from '@/hands/useChosenLanes'
import { provideHands } from '@/hands/useHands'
import { useNotices } from '@/page/notices'
import { useShortcuts } from '@/page/useShortcuts'
import { usePlaying } from '@/playing/playing'
import { newId, newPatternName, scoreOf } from '@/work/document'
import { usePiece } from '@/work/piece'
import BesideThreads from './BesideThreads.vue'
import FieldPlot from './FieldPlot.vue'
import FieldSettings from './FieldSettings.vue'
import GroundLane from './GroundLane.vue'
import GroundPlane from './GroundPlane.vue'
import { useField } from './useField'
import { useFieldSettings } from './useFieldSettings'

const props = defineProps<{ id: number }>()
const piece = usePiece()
const playing = usePlaying()
const notices = useNotices()
const router = useRouter()
const theme = useTheme()
const detours = useDetours()
const settings = useFieldSettings()
const {
  field,
  refusal,
  isAsking,
  pointed,
  candidate,
  heard,
  allWays,
  variationOf,
  point,
  letGo,
  throwAgain,
  made,
} = useField()
useDetourKeys()

watch(
  () => props.id,
  async (id) => {
    try {
      await piece.open(id)
      void playing.ready()
    } catch (reason) {
      notices.complain(reason)
      if (!isWaiting(reason)) void router.replace('/')
    }
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  letGo()
  piece.audition(null)
})

// ---- The lanes as they stand, for the grounds' words and threads ----
const chosen = useChosenLanes(() => piece.lanes)
const { rendering } = useRendering(
  computed(() =>
    piece.score && settings.face === 'ground'
      ? { score: piece.score, dice: piece.dice, window: { first_bar: 0, bars: 1 }, shown: null }
      : null,
  ),
)
const { edits, pictures } = provideHands(chosen, rendering)

// ---- A candidate becomes ... ----
const side = useTemplateRef<HTMLElement>('side')
const { width: sideWidth } = useElementSize(side)
const called = computed(() => (pointed.value === null ? 'The start' : `No. ${pointed.value + 1}`))
const isCandidate = computed(() => pointed.value !== null && candidate.value !== null)

function asPattern() {
  if (!isCandidate.value) return
  piece.editPattern(`Field: ${called.value}`, made)
  letGo()
}
function asNewPattern() {
  const from = piece.pattern
  if (!from || !isCandidate.value) return
  const fresh: Pattern = {
    ...made(from),
    id: newId('pattern', piece.patterns),
    name: newPatternName(piece.patterns),
  }
  piece.edit(`Pattern ${fresh.name}: ${called.value} of the field around ${from.name}`, (document) => ({
    ...document,
    patterns: [...document.patterns, fresh],
  }))
  letGo()
  notices.say(`Pattern ${fresh.name} is no. ${(pointed.value ?? 0) + 1} of this field.`, {
    label: `Go to ${fresh.name}`,
    act: () => piece.choosePattern(fresh.id),
  })
}
async function keep(as: 'take' | 'clip') {
  const { document, pattern } = piece
  if (!document || !pattern || !isCandidate.value) return
  const name = `${pattern.name}, ${called.value.toLowerCase()}`
  try {
    const sheet = await takesApi.throw({
      piece_id: piece.id, piece: document.name, pattern: name, score: scoreOf(document, made(pattern)), dice: piece.dice,
      first_bar: 0, bars: pattern.bars, lanes: null, vary: 0, count: 1,
    }) // prettier-ignore
    if (as === 'take') return notices.say(`Kept as a take of ${document.name}, pattern ${name}.`)
    const clip = await takesApi.keep(sheet.sheet.id, 1)
    notices.say(`Kept “${clip.name}”.`, { label: 'To the clips', act: () => router.push('/clips') })
  } catch (reason) {
    notices.complain(reason, { label: 'Try again', act: () => keep(as) })
  }
}
function asDetour() {
  if (pointed.value === null) return
  detours.give(variationOf(pointed.value))
  letGo()
  notices.say(`X held plays ${called.value.toLowerCase()} of this field.`)
}
/** A new field there: the pattern itself stays as it is. */
function aroundThis() {
  const changes = candidate.value?.patches
  if (!changes || !isCandidate.value) return
  const before = piece.pattern?.lanes ?? []
  const lanes = before.map((lane) => ({ ...lane, ...changes[lane.id] }))
  letGo()
  piece.audition((pattern) => ({ ...pattern, lanes }))
}
const isElsewhere = computed(() => piece.isTried)
const anchor = (lane: Lane) =>
  piece.keepTried(() =>
    piece.editLane(lane.id, `${lane.name}: ${lane.anchored ? 'not anchored' : 'anchored'}`, (now) => ({
      ...now,
      anchored: !lane.anchored,
    })),
  )
function anchorAt(place: number) {
  const lane = piece.lanes[place]
  if (lane) anchor(lane)
}

// ---- Grounds ----
const ground = computed(() => detours.around?.grounds.find(({ id }) => id === settings.ground) ?? null)
const meter = computed(() => {
  const now = piece.pattern?.meter
  return now ? `${now.numerator}/${now.denominator}` : ''
})
const endTick = computed(() => rendering.value?.end_tick ?? 1)
/** Where lanes that are on it already stand, so that others join them. */
const handOf = (id: GroundId) => {
  for (const { source } of piece.lanes)
    if (source.kind === 'ground' && source.ground === id) return { x: source.x ?? 50, y: source.y ?? 50 }
  return { x: 50, y: 50 }
}
async function put(lanes: readonly Lane[]) {
  const onto = ground.value
  if (!onto || !lanes.length) return
  try {
    const { patches } = await aroundApi.put({
      lanes: lanes.map(({ id }) => id),
      ground: onto.id,
      ...handOf(onto.id),
    })
    patch(`${lanes.length === 1 ? lanes[0]?.name : `${lanes.length} lanes`}: on ${onto.name}`, patches)
  } catch (reason) {
    notices.complain(reason)
  }
}
async function takeOff(lane: Lane) {
  try {
    patch(`${lane.name}: off the ground`, (await aroundApi.off([lane.id])).patches)
  } catch (reason) {
    notices.complain(reason)
  }
}
function patch(label: string, patches: Readonly<Record<string, object>>) {
  piece.editLanes(label, (lanes) => lanes.map((lane) => ({ ...lane, ...patches[lane.id] })))
}
function move(place: { x: number; y: number }, gesture: string) {
  const on = settings.ground
  piece.editLanes(
    `${ground.value?.name ?? 'Ground'}: ${place.x} across, ${place.y} up`,
    (lanes) =>
      lanes.map((lane) => {
        const { source } = lane
        const goes = source.kind === 'ground' && source.ground === on && !source.pinned && !lane.anchored
        return goes ? { ...lane, source: { ...source, ...place } } : lane
      }),
    gesture,
  )
}
const offLanes = computed(() =>
  piece.lanes.filter(
    ({ source, anchored }) => !anchored && !(source.kind === 'ground' && source.ground === settings.ground),
  ),
)
const setMeter = () => {
  const [numerator = 4, denominator = 4] = ground.value?.meter.split('/').map(Number) ?? []
  piece.editPattern(`Meter ${ground.value?.meter}`, (pattern) => ({
    ...pattern,
    meter: { numerator, denominator: denominator as Pattern['meter']['denominator'] },
  }))
}

useShortcuts({
  'g': { says: 'Field or ground', act: () => (settings.face = settings.face === 'field' ? 'ground' : 'field') },
  't': { says: 'Throw the field again', act: throwAgain },
  ...Object.fromEntries(
    Array.from({ length: 9 }, (_, at) => [
      `${at + 1}`,
      { says: at ? '' : '1-9: anchor a lane, or free it', act: () => anchorAt(at) },
    ]),
  ),
}) // prettier-ignore
</script>

<template>
  <main v-if="piece.document && piece.pattern" class="around">
    <header>
      <div class="faces" role="group" aria-label="What to look at">
        <button
          type="button"
          class="face named"
          :aria-pressed="settings.face === 'field'"
          @click="settings.face = 'field'"
        >
          Field
        </button>
        <button
          type="button"
          class="face named"
          :aria-pressed="settings.face === 'ground'"
          @click="settings.face = 'ground'"
        >
          Ground
        </button>
      </div>
      <p v-if="settings.face === 'field'" class="says" aria-live="polite">
        <b>Around {{ isElsewhere ? 'a place beside ' : '' }}pattern {{ piece.pattern.name }}.</b>
        {{ field?.says ?? refusal }}
        <button v-if="isElsewhere" type="button" class="quiet-button back" @click="piece.audition(null)">
          Where I started
        </button>
        <button
          v-if="field?.nearest != null"
          type="button"
          class="word-button"
          @click="
            field.nearest < (settings.least ?? 0)
              ? (settings.least = Math.floor(field.nearest))
              : (settings.most = Math.ceil(field.nearest))
          "
        >
          Widen to {{ field.nearest.toFixed(1) }} hits a bar
        </button>
      </p>
      <div v-else class="grounds" role="group" aria-label="Grounds">
        <button
          v-for="one in detours.around?.grounds ?? []"
          :key="one.id"
          type="button"
          class="choice"
          :aria-pressed="one.id === settings.ground"
          @click="settings.ground = one.id"
        >
          {{ one.name }} <small>{{ one.meter }}</small>
        </button>
      </div>
    </header>

    <template v-if="settings.face === 'field'">
      <FieldPlot
        v-if="field"
        class="plane"
        :field="field"
        :axes="settings.axes"
        :pointed="pointed"
        :heard="heard"
        :theme="theme.name.value"
        @point="point"
        @take="asPattern"
      />
      <div v-else class="plane empty" role="status">{{ refusal || 'Looking around …' }}</div>
      <section ref="side" class="side" aria-label="The pattern that is pointed at">
        <h2>{{ called }}</h2>
        <p class="soft">
          {{ candidate?.says || 'Point at a pattern to see it; while it plays, to hear it.' }}
        </p>
        <BesideThreads
          v-if="candidate"
          :candidate="candidate"
          :lanes="piece.lanes"
          :width="sideWidth"
          @anchor="anchor"
        />
        <div class="become" role="group" aria-label="What it becomes">
          <button type="button" class="word-button strong" :disabled="!isCandidate" @click="asPattern">
            Becomes the pattern <kbd>Enter</kbd>
          </button>
          <button type="button" class="word-button" :disabled="!isCandidate" @click="aroundThis">
            Around this one
          </button>
          <button type="button" class="word-button" :disabled="!isCandidate" @click="asNewPattern">
            New pattern
          </button>
          <button type="button" class="word-button" :disabled="!isCandidate" @click="keep('take')">
            Take
          </button>
          <button type="button" class="word-button" :disabled="!isCandidate" @click="keep('clip')">
            Clip
          </button>
          <button type="button" class="word-button" :disabled="!isCandidate" @click="asDetour">
            Detour <kbd>X</kbd>
          </button>
        </div>
      </section>
      <FieldSettings
        class="below"
        :field="field"
        :all-ways="allWays"
        :is-asking="isAsking"
        @again="throwAgain"
      />
    </template>

    <template v-else-if="ground">
      <GroundPlane class="plane" :ground="ground" :lanes="piece.lanes" @move="move" />
      <section class="side" aria-label="Lanes and their parts">
        <h2>{{ ground.name }}</h2>
        <p v-if="ground.meter !== meter" class="soft">
          It goes in {{ ground.meter }}, pattern {{ piece.pattern.name }} in {{ meter }}: it drifts against
          the bar.
          <button type="button" class="word-button" @click="setMeter">
            Make the pattern {{ ground.meter }}
          </button>
        </p>
        <p v-else class="soft">
          {{ ground.steps }} steps. Drag the hand: all lanes on it move, anchored and pinned ones stay.
        </p>
        <ul class="lanes">
          <GroundLane
            v-for="lane in piece.lanes"
            :key="lane.id"
            :lane="lane"
            :picture="pictures.get(lane.id)"
            :ground="ground.id"
            :end-tick="endTick"
            :bar-ticks="rendering?.bar_ticks ?? 1"
            @put="(one) => put([one])"
            @off="takeOff"
          />
        </ul>
        <button
          v-if="offLanes.length"
          type="button"
          class="word-button all"
          @click="put(offLanes.slice(0, 8))"
        >
          Put
          {{
            offLanes.length > 8
              ? 'eight lanes'
              : offLanes.length === 1
                ? offLanes[0]!.name
                : `all ${offLanes.length}`
          }}
          on it
        </button>
      </section>
    </template>
    <DetourRow
      v-if="detours.isRowOpen"
      class="detours"
      :lanes="edits ? chosen.chosen.value.map(({ id }) => id) : []"
      @close="detours.isRowOpen = false"
    />
  </main>
  <main v-else class="around" aria-busy="true">Fetching the piece …</main>
</template>

<style scoped>
.around {
  height: 100%;
  min-height: 0;
  padding: 10px 20px 10px;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto auto / minmax(0, 1fr) minmax(420px, 34%);
  gap: 8px 20px;
}
header {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 36px;
}
.faces {
  display: flex;
  gap: 4px;
}
.face {
  min-height: 36px;
  padding: 0 14px;
  border-radius: 18px;
  font-size: 20px;
  color: var(--soft-ink);
  cursor: pointer;
}
.face[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.says,
.soft {
  color: var(--soft-ink);
  font-size: 15px;
}
.says b {
  color: var(--ink);
}
.back {
  color: var(--act-text);
}
.grounds {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
}
.choice {
  min-height: 32px;
  padding: 0 10px;
  border-radius: 16px;
  font: 600 15px/1 var(--text-font);
  color: var(--soft-ink);
  cursor: pointer;
}
.choice[aria-pressed='true'] {
  color: var(--ink);
  box-shadow: inset 0 -3px 0 var(--ink);
}
.choice small {
  font-weight: 400;
}
.plane {
  grid-column: 1;
  grid-row: 2;
}
.empty {
  display: grid;
  place-items: center;
  padding: 40px;
  border: 1.5px dashed var(--rule);
  border-radius: 18px;
  font-size: 16px;
  text-align: center;
}
.side {
  grid-column: 2;
  grid-row: 2 / 4;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
h2 {
  font-size: 22px;
}
.become {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: auto;
}
kbd {
  font: inherit;
  opacity: 0.7;
}
.below {
  grid-column: 1;
  grid-row: 3;
}
.detours {
  grid-row: 4;
  padding-inline: 0;
}
.lanes {
  list-style: none;
  overflow-y: auto;
  min-height: 0;
}
.all {
  align-self: start;
}
</style>

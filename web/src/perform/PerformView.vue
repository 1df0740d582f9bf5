<script setup lang="ts">
/** A face of the lattice for hands, not for reading: big controls, and pads for patterns, detours, throws and mutes. */
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'

import { useRendering } from '@/engine/useRendering'
import { useDetourHands } from '@/around/useDetourHands'
import { useDetours } from '@/around/useDetours'
import { useDetourKeys } from '@/around/useDetourKeys'
import { useNotices } from '@/page/notices'
import { useShortcuts } from '@/page/useShortcuts'
import { useHandSettings } from '@/hands/useHandSettings'
import { useKeeping } from '@/playing/keeping'
import { useMutes } from '@/playing/mutes'
import { useHeardPattern } from '@/playing/useHeardPattern'
import { barOf, pageOf } from '@/sound/time'
import { inkOf } from '@/theme/inks'
import { usePiece } from '@/work/piece'
import BigHand from './BigHand.vue'
import HandMenu from './HandMenu.vue'
import { handleOf, type BigControl, type ControlHandle } from './controlHandles'
import { useControlHandles } from './useControlHandles'
import { useMovingHands } from './useMovingHands'
import { learns } from '@/hands/learn'
import { keyOfTarget, useLearning } from '@/hands/learning'

const props = defineProps<{ id: number }>()
const MOST = 8
const BARS = 2
const piece = usePiece()
const keeping = useKeeping()
const mutes = useMutes()
const detours = useDetours()
const notices = useNotices()
const router = useRouter()
useDetourKeys()
watch(
  () => props.id,
  (id) =>
    piece.open(id).catch((reason) => {
      notices.complain(reason)
      void router.push('/')
    }),
  { immediate: true },
)

useShortcuts({
  'c': { says: 'All the lanes', act: () => router.push(`/lattice/${props.id}`) },
  'o': { says: 'Order', act: () => router.push(`/order/${props.id}`) },
}) // prettier-ignore

// ---- What the hands hold ----
const hands = computed(() => piece.document?.hands ?? [])
const laneIds = computed(() => [...new Set(hands.value.flatMap(({ lane }) => lane ?? []))])
const firstBar = ref(0)
const question = computed(() =>
  piece.score && piece.pattern
    ? {
        score: piece.score,
        dice: piece.dice,
        row: piece.row,
        window: { first_bar: firstBar.value, bars: BARS },
        chosen: laneIds.value.filter((id) => piece.lanes.some((lane) => lane.id === id)),
        shown: null,
      }
    : null,
)
const { rendering } = useRendering(question)
const holds = computed<(ControlHandle | null)[]>(() =>
  hands.value.map((of) =>
    piece.document && piece.pattern
      ? handleOf(
          of,
          piece.document,
          piece.pattern,
          rendering.value?.benches.find(({ id }) => id === of.lane),
        )
      : null,
  ),
)
function lay(label: string, change: (all: readonly BigControl[]) => BigControl[]) {
  piece.edit(label, (document) => ({ ...document, hands: change(document.hands) }))
}
const open = ref<number | null>(null)
function take(place: number, of: BigControl) {
  open.value = null
  lay('A control laid out', (all) => (place < all.length ? all.with(place, of) : [...all, of]))
}
function remove(place: number) {
  open.value = null
  lay('A control removed', (all) => all.toSpliced(place, 1))
}
/** To begin with: how often, how busy, how loud, of the first lanes. */
function begin() {
  const [one, two, three, four] = piece.lanes
  const offered = [
    one && { lane: one.id, control: 'busy' },
    two && { lane: two.id, control: 'chance_percent' },
    three && { lane: three.id, control: 'velocity' },
    four && { lane: four.id, control: 'length_percent' },
    one && { lane: one.id, control: 'step_value' },
    { lane: null, control: 'degrees_up' },
  ]
  lay('Six controls laid out', () => offered.flatMap((of) => of ?? []))
}

function cancel(gesture: string) {
  piece.takeBack(gesture)
}

const { movingAt, saidOf } = useMovingHands(rendering, (tick, barTicks) => {
  firstBar.value = pageOf(barOf(tick, barTicks), BARS)
})

// ---- Pads ----
const { heard, isWaiting, choose } = useHeardPattern()
const handsOn = useDetourHands()
const settings = useHandSettings()
const { move, throwAll } = useControlHandles()
const learning = useLearning()
/** Where the knob of a big control stands, while it waits. */
const knobOf = (place: number) => learning.waiting.get(keyOfTarget({ kind: 'hand', place })) ?? null
</script>

<template>
  <main v-if="piece.document && piece.pattern" class="perform">
    <div class="pads" role="group" aria-label="Pads for patterns">
      <button
        v-for="(pattern, at) in piece.patterns"
        :key="pattern.id"
        type="button"
        class="pad pattern"
        :class="{ heard: pattern.id === heard, waiting: isWaiting(pattern.id) }"
        :style="{ '--ink-of-pad': inkOf(pattern.ink ?? 0) }"
        :aria-pressed="pattern.id === piece.pattern.id"
        v-bind="learns({ kind: 'pattern', place: at })"
        @click="choose(pattern.id)"
      >
        <span class="visually-hidden">Play pattern </span><span class="named">{{ pattern.name }}</span>
        <small>{{
          isWaiting(pattern.id) ? 'waits' : pattern.id === heard ? 'plays' : at < 9 ? at + 1 : ''
        }}</small>
      </button>
      <span class="gap" />
      <button
        v-tip="'Throw all lanes that are not anchored'"
        type="button"
        class="pad"
        v-bind="learns({ kind: 'act', act: 'throw' })"
        @click="throwAll"
      >
        <span class="named">Throw</span><small>all by {{ settings.throwPercent }} %</small>
      </button>
      <button
        type="button"
        class="pad keep"
        v-bind="learns({ kind: 'act', act: 'keep' })"
        @click="keeping.keep(keeping.bars)"
      >
        <span class="named">Keep</span><small>{{ keeping.bars }} bars</small>
      </button>
      <button
        v-tip="'Press this, then any control here, then move a thing on your controller (Y)'"
        type="button"
        class="pad back"
        :aria-pressed="learning.isOn"
        @click="learning.begin()"
      >
        <span class="named">Learn</span><small>from a controller</small>
      </button>
      <RouterLink v-tip="'Back to all the lanes (C)'" :to="`/lattice/${id}`" class="pad back">
        <span class="named">Lattice</span><small>all lanes</small>
      </RouterLink>
    </div>

    <div class="hands">
      <template v-for="(hold, place) in holds" :key="place">
        <div v-if="hold" class="place">
          <BigHand
            :hold="hold"
            :moving="movingAt(hold)?.share ?? null"
            :knob="knobOf(place)"
            v-bind="learns({ kind: 'hand', place })"
            :says="saidOf(hold)"
            @move="(value, gesture) => move(hold, value, gesture)"
            @cancel="cancel"
            @menu="open = place"
          >
            <v-menu
              :model-value="open === place"
              activator="parent"
              :open-on-click="false"
              :close-on-content-click="false"
              location="bottom end"
              @update:model-value="(opens: boolean) => !opens && (open = null)"
            >
              <HandMenu :of="hold.of" @take="(of) => take(place, of)" @remove="remove(place)" />
            </v-menu>
          </BigHand>
        </div>
      </template>
      <button v-if="hands.length < MOST" type="button" class="add">
        <span class="named">+ control</span>
        <small>{{
          hands.length ? `${MOST - hands.length} more have room` : 'of any lane: up to eight'
        }}</small>
        <v-menu
          :model-value="open === MOST"
          activator="parent"
          :close-on-content-click="false"
          @update:model-value="(opens: boolean) => (open = opens ? MOST : null)"
        >
          <HandMenu :of="null" @take="(of) => take(hands.length, of)" />
        </v-menu>
      </button>
      <button v-if="!hands.length && piece.lanes.length" type="button" class="add" @click="begin">
        <span class="named">Six to begin with</span>
        <small>busy-ness, chance, velocity, length, step, degrees</small>
      </button>
    </div>

    <div class="pads" role="group" aria-label="Detours, held">
      <button
        v-for="line in detours.kinds"
        :key="line.kind"
        v-tip="`${line.explains} ControlHandle it.`"
        type="button"
        class="pad detour"
        :aria-pressed="detours.holding.has(line.kind)"
        v-bind="{ ...handsOn(line.kind), ...learns({ kind: 'detour', detour: line.kind }) }"
        @contextmenu.prevent
      >
        <span class="named">{{ line.kind }}</span><small>hold</small>
      </button>
    </div>
    <div class="pads mutes" role="group" aria-label="Mutes">
      <button
        v-for="(lane, at) in piece.lanes"
        :key="lane.id"
        type="button"
        class="mute"
        v-bind="learns({ kind: 'mute', place: at })"
        :class="{ muted: lane.mute }"
        :style="{ '--ink-of-pad': inkOf(lane.ink) }"
        :aria-pressed="lane.mute"
        :aria-label="`Mute ${lane.name}`"
        @click="mutes.mute(lane.id, !lane.mute)"
      >
        {{ lane.name }}
      </button>
    </div>
  </main>
  <main v-else class="waiting" aria-busy="true">Fetching the piece …</main>
</template>

<style scoped>
.perform {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 10px 20px;
  user-select: none;
}
.pads {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.pad {
  display: grid;
  align-content: center;
  justify-items: center;
  gap: 2px;
  min-width: 96px;
  height: 70px;
  padding: 0 14px;
  border-radius: 14px;
  border: 2px solid var(--ink);
  background: var(--card);
  color: var(--ink);
  text-decoration: none;
  cursor: pointer;
  touch-action: none;
}
.pad .named {
  font-size: 24px;
}
.pad small {
  font-size: 14px;
  color: var(--soft-ink);
}
.pattern {
  border-color: var(--ink-of-pad);
  border-bottom-width: 10px;
}
.pattern[aria-pressed='true'] {
  background: color-mix(in srgb, var(--ink-of-pad) 16%, var(--card));
}
.pattern.heard {
  box-shadow: 0 0 0 4px var(--act);
}
.pattern.waiting {
  border-style: dashed;
}
.gap {
  flex: 1;
}
.keep {
  background: var(--keep);
  border-color: var(--keep);
  color: #2b2440;
}
.keep small {
  color: #2b2440;
}
.back {
  border-color: var(--rule);
}
.detour {
  flex: 1;
  height: 60px;
  border-style: solid;
  border-color: var(--rule);
}
.detour[aria-pressed='true'] {
  background: var(--act-text);
  border-color: var(--act-text);
  color: var(--on-act);
}
.detour[aria-pressed='true'] small {
  color: var(--on-act);
}
.hands {
  flex: 1;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  align-content: start;
  gap: 10px 14px;
}
.add {
  display: grid;
  place-content: center;
  justify-items: center;
  min-height: 84px;
  border: 2px dashed var(--rule);
  border-radius: 12px;
  cursor: pointer;
}
.add .named {
  font-size: 20px;
}
.add small {
  font-size: 14px;
  color: var(--soft-ink);
}
.mute {
  min-height: 44px;
  padding: 0 16px;
  border-radius: 24px;
  border: 2px solid var(--ink-of-pad);
  background: color-mix(in srgb, var(--ink-of-pad) 14%, var(--card));
  font: 600 17px/1 var(--text-font);
  cursor: pointer;
}
.mute.muted {
  background: transparent;
  border-color: var(--rule);
  color: var(--soft-ink);
  text-decoration: line-through;
}
.waiting {
  flex: 1;
  display: grid;
  place-items: center;
}
</style>

<script setup lang="ts">
/** A ground: lanes are put on it and taken off, and one hand moves all that are on it. */
import { computed } from 'vue'

import type { Lane, Pattern } from '@/api/client'
import { useDetours } from '@/around/useDetours'
import { aroundApi } from '@/engine/around'
import { useRendering } from '@/engine/useRendering'
import { useChosenLanes } from '@/hands/useChosenLanes'
import { provideHands } from '@/hands/useHands'
import { useNotices } from '@/page/notices'
import { useRovingRows } from '@/page/useRovingRows'
import { usePiece } from '@/work/piece'
import GroundLane from './GroundLane.vue'
import GroundPlane from './GroundPlane.vue'
import { goesAlong, standsOn } from './onGround'
import { useFieldSettings } from './useFieldSettings'

const piece = usePiece()
const notices = useNotices()
const detours = useDetours()
const settings = useFieldSettings()

// ---- The lanes as they stand, for the grounds' words and threads ----
const chosen = useChosenLanes(() => piece.lanes)
const { rendering } = useRendering(
  computed(() =>
    piece.score
      ? { score: piece.score, dice: piece.dice, window: { first_bar: 0, bars: 1 }, shown: null }
      : null,
  ),
)
const { pictures } = provideHands(chosen, rendering)

// ---- The ground ----
const ground = computed(() => detours.around?.grounds.find(({ id }) => id === settings.ground) ?? null)
const saidMeter = ({ numerator, denominator }: Pattern['meter']) => `${numerator}/${denominator}`
const drifts = computed(
  () => ground.value && piece.pattern && saidMeter(ground.value.meter) !== saidMeter(piece.pattern.meter),
)
const endTick = computed(() => rendering.value?.end_tick ?? 1)
const onIt = computed(() => piece.lanes.filter((lane) => standsOn(lane, settings.ground)))
/** Lanes that could stand on it too, as many as there are parts that nobody plays. */
const couldJoin = computed(() => {
  const parts = (ground.value?.parts.length ?? 0) - onIt.value.length
  return piece.lanes
    .filter((lane) => !lane.anchored && !standsOn(lane, settings.ground))
    .slice(0, Math.max(0, parts))
})
async function put(lanes: readonly Lane[]) {
  const onto = ground.value
  if (!onto || !lanes.length) return
  const who = lanes.length === 1 ? lanes[0]?.name : `${lanes.length} lanes`
  const ids = lanes.map(({ id }) => id)
  await lay(`${who}: on ${onto.name}`, () => aroundApi.put({ lanes: ids, ground: onto.id }))
}
const takeOff = (lane: Lane) => lay(`${lane.name}: off the ground`, () => aroundApi.off([lane.id]))
const lay = (label: string, ask: () => ReturnType<typeof aroundApi.off>) =>
  notices.attempt(async () => {
    await piece.editLanesAsAnswered(label, async () => new Map(Object.entries((await ask()).patches)))
  })
function move(place: { x: number; y: number }, gesture: string) {
  const on = settings.ground
  piece.editLanes(
    `${ground.value?.name ?? 'Ground'}: ${place.x} across, ${place.y} up`,
    (lanes) =>
      lanes.map((lane) =>
        standsOn(lane, on) && goesAlong(lane) ? { ...lane, source: { ...lane.source, ...place } } : lane,
      ),
    gesture,
  )
}
const rows = useRovingRows(() => piece.lanes.map(({ id }) => id))
function setMeter() {
  const meter = ground.value?.meter
  if (meter) piece.editPattern(`Meter ${saidMeter(meter)}`, (pattern) => ({ ...pattern, meter }))
}
</script>

<template>
  <div class="whole">
    <div class="grounds" role="group" aria-label="Grounds">
      <button
        v-for="one in detours.around?.grounds ?? []"
        :key="one.id"
        type="button"
        class="choice"
        :aria-pressed="one.id === settings.ground"
        @click="settings.ground = one.id"
      >
        {{ one.name }} <small>{{ saidMeter(one.meter) }}</small>
      </button>
    </div>
    <template v-if="ground">
      <GroundPlane class="plane" :ground="ground" :lanes="piece.lanes" @move="move" />
      <section class="side" aria-label="Lanes and their parts">
        <h2>{{ ground.name }}</h2>
        <p v-if="drifts && piece.pattern" class="soft">
          It goes in {{ saidMeter(ground.meter) }}, pattern {{ piece.pattern.name }} in
          {{ saidMeter(piece.pattern.meter) }}: it drifts against the bar.
          <button type="button" class="word-button" @click="setMeter">
            Make the pattern {{ saidMeter(ground.meter) }}
          </button>
        </p>
        <p v-else-if="!onIt.length" class="soft">
          No lane stands on it yet. Put some on: one drag then moves them all, from groove to groove.
        </p>
        <p v-else class="soft">
          {{ ground.steps }} steps. Drag the hand: all lanes on it move, anchored and pinned ones stay.
        </p>
        <p v-if="!piece.lanes.length" class="soft">
          The pattern has no lane. A whole beat on this ground is among the starters of the lattice (E).
        </p>
        <ul class="lanes" v-bind="rows.on">
          <GroundLane
            v-for="lane in piece.lanes"
            :key="lane.id"
            :lane="lane"
            :picture="pictures.get(lane.id)"
            :ground="ground.id"
            :end-tick="endTick"
            :bar-ticks="rendering?.bar_ticks ?? 1"
            :is-stop="rows.isStop(lane.id)"
            @put="(one) => put([one])"
            @off="takeOff"
          />
        </ul>
        <button v-if="couldJoin.length" type="button" class="word-button all" @click="put(couldJoin)">
          Put {{ couldJoin.length === 1 ? couldJoin[0]?.name : `${couldJoin.length} lanes` }} on it
        </button>
      </section>
    </template>
  </div>
</template>

<style scoped>
.whole {
  display: contents;
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
  grid-column: 1 / 3;
  grid-row: 2;
}
.side {
  grid-column: 3;
  grid-row: 2 / 4;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
h2 {
  font-size: 22px;
}
.lanes {
  list-style: none;
  overflow-y: auto;
  min-height: 0;
}
.all {
  align-self: start;
}
.soft {
  color: var(--soft-ink);
  font-size: 15px;
}
.grounds {
  grid-column: 2 / -1;
  grid-row: 1;
  align-self: center;
}
</style>

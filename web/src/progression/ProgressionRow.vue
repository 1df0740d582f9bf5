<script setup lang="ts">
/** The chords above the lanes, true to time: pull an edge to resize, press one to write another, drag to put it elsewhere. */
import { computed, ref } from 'vue'

import type { Progression, Schemas } from '@/api/client'
import { onArrival } from '@/engine/onArrival'
import { melody } from '@/engine/melody'
import { newGesture } from '@/page/gesture'
import { ticksBeside, xOf, type TimeScale } from '@/lattice/geometry/scale'
import { useDrag } from '@/page/useDrag'
import { useRovingRows } from '@/page/useRovingRows'
import { useOffer } from '@/page/useLists'
import { inkOf } from '@/theme/inks'
import ChordCard from './ChordCard.vue'
import StarterProgressions from './StarterProgressions.vue'
import { lengthBeside, nearestLength, ticksOfLasts, type PlacedChord } from './lengths'

const props = defineProps<{
  progression: Progression | null
  chords: readonly Schemas['ChordPicture'][]
  scale: TimeScale
  meter: Schemas['Meter']
  /** The scale that its numerals lie in. */
  inScale: Schemas['Scale']
  /** The chords of three notes that lie in the scale. */
  scaleChords: readonly string[]
  /** How many chords there are and over how long. */
  says: string
}>()
const emit = defineEmits<{
  change: [label: string, progression: Progression | null, gesture: string | null]
}>()

/** Pixels by which a chord begins before its first bead's middle, so that this stands whole in it. */
const LEAD = 10
const placed = computed(() => props.progression?.chords ?? [])
const shapes = computed(() =>
  props.chords.map((chord) => {
    const from = Math.max(0, xOf(chord.start, props.scale) - LEAD)
    const to = Math.min(props.scale.width, xOf(chord.end, props.scale) - LEAD - 4)
    return { ...chord, from, width: Math.max(8, to - from), key: `${chord.start}` }
  }),
)
const roving = useRovingRows(() => shapes.value.map(({ key }) => key), ['ArrowLeft', 'ArrowRight'])
/** One ink for each chord that is written: the same chord looks the same wherever it is. */
const inkOfChord = (written: string) => {
  const known = [...new Set(placed.value.map(({ chord }) => chord))]
  return inkOf(known.indexOf(written) % 8)
}

function set(chords: readonly PlacedChord[], label: string, gesture: string | null = null) {
  const leading = props.progression?.leading ?? 'nearest'
  emit('change', label, chords.length ? { chords: [...chords], leading } : null, gesture)
}
const at = (place: number, change: (one: PlacedChord) => PlacedChord) =>
  placed.value.map((one, here) => (here === place ? change(one) : one))

// ---- Resizing ----
const offered = useOffer(
  () => ['chords', props.meter, props.inScale],
  () => melody.chords(props.meter, props.inScale),
)
const lengths = computed(() => offered.value?.lengths ?? [])
/** How long a chord in view lasts, in ticks: as the document has it, since the picture may be a moment behind the hand. */
function ticksOf(place: number): number {
  const now = placed.value[place] && ticksOfLasts(lengths.value, placed.value[place].lasts)
  if (now !== undefined) return now
  const shown = props.chords.find((chord) => chord.place === place)
  return shown ? shown.end - shown.start : 0
}
const drag = useDrag((event) => {
  const place = event.target instanceof HTMLElement ? Number(event.target.dataset['place']) : 0
  const [lasts, gesture] = [ticksOf(place), newGesture('chord')]
  return {
    move({ clientX, shiftKey }) {
      const wanted = ticksBeside(lasts, clientX - event.clientX, props.scale)
      resize(place, nearestLength(lengths.value, wanted, shiftKey), gesture)
    },
  }
})
/** To whole beats; with Shift to half ones. */
function resize(place: number, length: Schemas['ChordLength'] | undefined, gesture: string | null) {
  if (!length) return
  const name = placed.value[place]?.chord ?? ''
  set(
    at(place, (one) => ({ ...one, lasts: length.lasts })),
    `length of ${name}`,
    gesture,
  )
}
async function keyResize(place: number, by: number, isFine: boolean) {
  await onArrival(() => offered.value)
  resize(place, lengthBeside(lengths.value, ticksOf(place), by, isFine), null)
}

// ---- Writing ----
const open = ref<number | null>(null)
const write = (place: number, fields: Partial<PlacedChord>, label: string, gesture: string | null = null) =>
  set(
    at(place, (one) => ({ ...one, ...fields })),
    label,
    gesture,
  )
function addAfter(place: number) {
  const one = placed.value[place]
  if (one) set([...placed.value.slice(0, place + 1), { ...one, inversion: 0 }, ...placed.value.slice(place + 1)], `${one.chord} again`) // prettier-ignore
}
function remove(place: number) {
  open.value = null
  set(placed.value.filter((_, here) => here !== place), `${placed.value[place]?.chord ?? ''} removed`) // prettier-ignore
}
async function begin() {
  const known = await onArrival(() => offered.value)
  if (known) set(known.first.chords, 'a progression')
}
const setLeading = () => {
  const leading = props.progression?.leading === 'nearest' ? 'as-written' : 'nearest'
  if (props.progression) emit('change', `chords ${leading === 'nearest' ? 'nearest voicing' : 'as written'}`, { ...props.progression, leading }, null) // prettier-ignore
}
</script>

<template>
  <div class="head">
    <slot />
    <template v-if="progression">
      <span class="counts">{{ says }}</span>
      <button
        v-tip="'Voice leading: each chord in the position nearest to the one before, or as it is written'"
        type="button"
        class="quiet-button"
        @click="setLeading"
      >
        {{ progression.leading === 'nearest' ? 'nearest voicing' : 'as written' }}
      </button>
    </template>
    <button v-else type="button" class="word-button" @click="begin">+ chords</button>
    <StarterProgressions @take="(one) => emit('change', `progression ${one.name}`, one.progression, null)" />
  </div>
  <div class="chords" role="group" aria-label="Progression" v-bind="roving.on">
    <div
      v-for="chord in shapes"
      :key="chord.key"
      class="place"
      :data-row="chord.key"
      :style="{
        left: `${chord.from}px`,
        width: `${chord.width}px`,
        '--chord-ink': inkOfChord(chord.written),
      }"
    >
      <button
        v-tip="
          `${chord.name}: ${chord.notes}. Press to write another, pull its end to resize. By keys, left and right go on, up and down resize`
        "
        type="button"
        class="chord"
        data-owns-keys
        :tabindex="roving.stopOf(chord.key)"
        @keydown.down.prevent="keyResize(chord.place, -1, $event.shiftKey)"
        @keydown.up.prevent="keyResize(chord.place, 1, $event.shiftKey)"
        @keydown.delete="remove(chord.place)"
        @keydown.enter="open = chord.start"
        @click="open = chord.start"
      >
        <span class="visually-hidden">Chord {{ chord.place + 1 }}: </span>
        <span class="written named">{{ chord.written }}</span>
        <span v-if="chord.width > 74" class="other">{{
          chord.written === chord.name ? chord.numeral : chord.name
        }}</span>
        <v-menu
          :model-value="open === chord.start"
          activator="parent"
          :open-on-click="false"
          :close-on-content-click="false"
          @update:model-value="(isOpen) => isOpen || (open = null)"
        >
          <ChordCard
            v-if="placed[chord.place]"
            :chord="placed[chord.place]!"
            :picture="chord"
            :scale-chords="scaleChords"
            @write="(fields, label) => write(chord.place, fields, label)"
            @longer="(by) => keyResize(chord.place, by, false)"
            @add="addAfter(chord.place)"
            @remove="remove(chord.place)"
            @close="open = null"
          />
        </v-menu>
      </button>
      <span class="edge" aria-hidden="true" v-bind="drag.on" :data-place="chord.place" />
    </div>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  align-content: center;
  gap: 0 12px;
  padding: 0 10px 0 25px;
  line-height: 20px;
  font-size: 14px;
  color: var(--soft-ink);
  white-space: nowrap;
}
.head :deep(button) {
  min-height: 28px;
}
.chords {
  position: relative;
  min-height: 40px;
  overflow: hidden;
}
.place {
  position: absolute;
  top: 2px;
  bottom: 3px;
}
.chord {
  width: 100%;
  height: 100%;
  padding: 0 14px 0 10px;
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 6px;
  overflow: hidden;
  line-height: 30px;
  border-radius: 10px;
  background: color-mix(in srgb, var(--chord-ink) 13%, var(--card));
  border-bottom: 3px solid var(--chord-ink);
  cursor: pointer;
  white-space: nowrap;
}
.chord:hover {
  background: color-mix(in srgb, var(--chord-ink) 22%, var(--card));
}
.written {
  font-size: 17px;
  color: var(--ink);
}
.other {
  font-size: 14px;
  color: var(--ink);
}
.edge {
  position: absolute;
  top: 0;
  bottom: 0;
  right: -5px;
  width: 14px;
  cursor: ew-resize;
  touch-action: none;
}
.edge:hover {
  background: linear-gradient(90deg, transparent 5px, var(--ink) 5px 7px, transparent 7px);
}
</style>

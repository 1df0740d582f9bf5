<script setup lang="ts">
/** The running order: which pattern when, drawn whole, row by row in words, kept and taken away. */
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { useNotices } from '@/page/notices'
import { useDrag } from '@/page/useDrag'
import { PASS, useShortcuts } from '@/page/useShortcuts'
import { useOrder } from '@/playing/order'
import { usePlaying } from '@/playing/playing'
import { useTrail } from '@/work/trail'
import { useOwnPlay } from '@/playing/useOwnPlay'
import { withMoved } from '@/work/document'
import { newGesture } from '@/page/gesture'
import { usePiece } from '@/work/piece'
import OrderKeeping from './OrderKeeping.vue'
import OrderLine from './OrderLine.vue'
import OrderMap from './OrderMap.vue'
import SwitchWords from '@/around/SwitchWords.vue'
import { useOrderPicture } from './useOrderPicture'

const props = defineProps<{ id: number }>()
const piece = usePiece()
const trail = useTrail()
const playing = usePlaying()
const order = useOrder()
const notices = useNotices()
const router = useRouter()
const picture = useOrderPicture()
const chosen = ref(0)
const list = useTemplateRef<HTMLElement>('list')

watch(
  () => props.id,
  (id) =>
    piece.open(id).catch((reason) => {
      notices.complain(reason)
      void router.push('/')
    }),
  { immediate: true },
)
const last = computed(() => order.rows.length - 1)
watch(last, (now) => (chosen.value = Math.max(0, Math.min(chosen.value, now))))

function add() {
  const pattern = piece.pattern
  if (!pattern) return
  const at = Math.min(order.rows.length, chosen.value + 1)
  const row = { pattern: pattern.id, repeats: 1, bars: null, degrees_up: 0, semitones_up: 0, scale: null, pace: { times: 1, over: 1 }, mutes: [] } // prettier-ignore
  order.edit(`Row of ${pattern.name} added`, (rows) => rows.toSpliced(at, 0, row))
  chosen.value = at
}
function copy(place: number) {
  order.edit(`Row ${place + 1} copied`, (rows) => {
    const row = rows[place]
    return row ? rows.toSpliced(place + 1, 0, { ...row }) : rows
  })
  chosen.value = place + 1
}
function remove(place: number) {
  if (!order.rows[place]) return
  order.edit(`Row ${place + 1} taken out`, (rows) => rows.toSpliced(place, 1))
  notices.say(`Row ${place + 1} is taken out.`, { label: 'Undo', act: () => trail.undo() })
}
function move(from: number, to: number, gesture: string | null = null) {
  if (to < 0 || to > last.value || from === to) return
  order.edit(`Row ${from + 1} to place ${to + 1}`, (rows) => withMoved(rows, from, to), gesture)
  chosen.value = to
}

/** A row is dragged by its number. */
const drag = useDrag((event) => {
  const grip = event.target instanceof Element ? event.target.closest('[data-grip]') : null
  const row = grip?.closest<HTMLElement>('[data-place]')
  if (!row) return null
  const from = Number(row.dataset['place'])
  const gesture = newGesture(`row ${from}`)
  return {
    move({ clientY }) {
      const boxes = [...(list.value?.querySelectorAll<HTMLElement>('[data-place]') ?? [])]
      const to = boxes.findIndex((one) => {
        const { top, bottom } = one.getBoundingClientRect()
        return clientY >= top && clientY < bottom
      })
      // Each step of a gesture is one from where the row was when it was taken.
      if (to >= 0) move(from, to, gesture)
    },
  }
})

const playAll = () => (order.isPlaying ? playing.stop() : order.playFrom(chosen.value))
useOwnPlay(() => order.playFrom(chosen.value))
const onRow = (act: () => unknown) => (order.rows[chosen.value] ? act() : PASS)
function goRound() {
  order.loop = order.loop ? null : [chosen.value, chosen.value]
}
function goRoundTo() {
  const [first, last] = order.loop ?? [chosen.value, chosen.value]
  order.loop = [Math.min(first, chosen.value), Math.max(last, chosen.value)]
}
const walk = (by: number) => {
  chosen.value = Math.max(0, Math.min(last.value, chosen.value + by))
  list.value?.querySelector<HTMLElement>(`[data-place="${chosen.value}"] [data-grip]`)?.focus()
}
useShortcuts({
  'o': { says: 'Back to the lanes', act: () => router.push(`/lattice/${props.id}`) },
  'ArrowUp': { says: 'Row before', act: () => walk(-1) },
  'ArrowDown': { says: 'Row after', act: () => walk(1) },
  'Alt+ArrowUp': { says: 'Move the row up', act: () => onRow(() => move(chosen.value, chosen.value - 1)) },
  'Alt+ArrowDown': { says: 'Move the row down', act: () => onRow(() => move(chosen.value, chosen.value + 1)) },
  'Enter': { says: 'Play from the row', act: () => onRow(() => order.playFrom(chosen.value)) },
  'n': { says: 'A new row', act: add },
  'l': { says: 'The row goes round, or plays on', act: () => onRow(goRound) },
  'Shift+l': { says: 'All up to the row go round', act: () => onRow(goRoundTo) },
  'd': { says: 'A copy of the row', act: () => onRow(() => copy(chosen.value)) },
  'Delete': { says: 'Take the row out', act: () => onRow(() => remove(chosen.value)) },
}) // prettier-ignore
</script>

<template>
  <main class="order">
    <div class="bar">
      <button
        type="button"
        class="word-button act"
        :disabled="!order.rows.length"
        :aria-pressed="order.isPlaying"
        @click="playAll"
      >
        {{ order.isPlaying ? 'Stop the order' : chosen ? `Play from row ${chosen + 1}` : 'Play the order' }}
      </button>
      <p v-if="picture" class="whole named" data-test="whole">
        {{ picture.rows.length }} {{ picture.rows.length === 1 ? 'row' : 'rows' }} ·
        {{ picture.bars.toLocaleString('en') }} {{ picture.bars === 1 ? 'bar' : 'bars' }} ·
        {{ picture.lasts }}
      </p>
      <button
        v-if="order.loop"
        v-tip="'These rows go round: press to play on to the end'"
        type="button"
        class="quiet-button round"
        @click="order.loop = null"
      >
        rows {{ order.loop[0] + 1 }}–{{ order.loop[1] + 1 }} go round ×
      </button>
      <SwitchWords />
      <button
        v-tip="'What you switch by hand while it plays becomes rows at the end, when it stops'"
        type="button"
        class="word-button"
        :aria-pressed="order.isWriting"
        @click="order.isWriting = !order.isWriting"
      >
        {{ order.isWriting ? 'Playing along: it is written down' : 'Play along' }}
      </button>
      <OrderKeeping :chosen="chosen" />
    </div>
    <template v-if="picture?.rows.length">
      <OrderMap :picture="picture" :chosen="chosen" @choose="(place) => (chosen = place)" />
      <ol ref="list" class="rows" aria-label="Rows of the order" v-bind="drag.on">
        <OrderLine
          v-for="row in picture.rows"
          :key="row.place"
          :picture="row"
          :is-chosen="row.place === chosen"
          @choose="chosen = row.place"
          @copy="copy(row.place)"
          @remove="remove(row.place)"
        />
      </ol>
      <button
        v-tip="'A row of the pattern on the table, after the chosen one (N)'"
        type="button"
        class="word-button more"
        @click="add"
      >
        + row of {{ piece.pattern?.name }}
      </button>
    </template>
    <section v-else class="empty">
      <p>Which pattern comes when, how often, how high, how fast: a row each.</p>
      <button type="button" class="word-button act" @click="add">+ row of {{ piece.pattern?.name }}</button>
      <p>
        Or press <b>Play along</b>, play, and switch patterns by hand (1–9): what you switch is written down.
      </p>
    </section>
  </main>
</template>

<style scoped>
.order {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 10px 20px 16px;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  min-height: 44px;
}
.act {
  background: var(--act-text);
  border-color: var(--act-text);
  color: var(--on-act);
}
.act:disabled {
  opacity: 0.45;
}
.whole {
  font-size: 18px;
}
.round {
  color: var(--act-text);
  font-weight: 600;
}
.rows {
  margin: 6px 0 10px;
  padding: 0;
  list-style: none;
  border-top: 1.5px solid var(--ink);
}
.empty {
  max-width: 640px;
  margin: 60px auto;
  display: grid;
  justify-items: start;
  gap: 18px;
  font-size: 18px;
}
</style>

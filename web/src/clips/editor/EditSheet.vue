<script setup lang="ts">
/**
 * The notes of a clip, to be taken hold of: a click chooses, a drag moves or draws a box, an end is drawn longer, a double
 * click adds or removes. Below them velocities, or a controller, to be painted over.
 */
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'

import type { Action } from '@/api/clips'
import type { Schemas } from '@/api/client'
import { canvasOf, useFrames } from '@/page/useFrames'
import { useDrag } from '@/page/useDrag'
import { startOfBar, ticksOfBar } from '@/sound/time'
import { drawSheet, LOW, RULER, valueBelow, type Hand } from './drawing'
import {
  filling,
  gridWithin,
  scrolledTo,
  tickIn,
  ticksOfWay,
  wayOf,
  xIn,
  zoomed,
} from '@/lattice/geometry/scale'
import {
  countOf, firstFrom, isChosen, notesWithin, noteUnder, rowAt, turned,
  type SheetRow, type View, type Window,
} from './layout' // prettier-ignore

const props = defineProps<{
  clip: Schemas['Clip']
  rows: readonly SheetRow[]
  view: View
  chosen: readonly (readonly number[])[]
  step: Required<Schemas['StepValue']>
  /** Length of a step of the grid, in ticks; 0 where it is not known yet. */
  stepTicks: number
  /** Whether hands keep to the grid. */
  snaps: boolean
  /** The controller that is painted below, of which track; null: velocities. */
  control: { track: number; controller: number } | null
  /** The track that new notes of the melody view go to. */
  track: number
  isReadonly: boolean
  isPlaying: boolean
  nowTick: () => number
}>()
const emit = defineEmits<{
  act: [action: Action, on?: Schemas['Clip']]
  choose: [chosen: number[][]]
  track: [track: number]
}>()
const shown = defineModel<Window>('window', { required: true })

const box = useTemplateRef<HTMLElement>('box')
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box)
const sheetHeight = computed(() => Math.max(0, height.value - LOW - RULER))
const barTicks = computed(() => ticksOfBar(props.clip.meter))

// ---- What a hand is doing ----
const hand = shallowRef<Hand | null>(null)

const place = (event: PointerEvent | MouseEvent) => {
  const rect = box.value?.getBoundingClientRect()
  return [event.clientX - (rect?.left ?? 0), event.clientY - (rect?.top ?? 0)] as const
}
const under = (x: number, y: number) => noteUnder(props.clip.tracks, props.rows, x, y - RULER, shown.value)

const drag = useDrag((event) => {
  if (props.isReadonly) return null
  // What is typed is for the notes that are chosen: it is taken before others are.
  if (document.activeElement instanceof HTMLInputElement) document.activeElement.blur()
  const [x, y] = place(event)
  hand.value = takeAt(x, y, event.shiftKey)
  return hand.value && { move: moveHand, end: letGo }
})
function takeAt(x: number, y: number, isMore: boolean): Hand | null {
  if (y > height.value - LOW) return beginPainting(x, y)
  const note = under(x, y)
  if (!note) return { kind: 'box', from: [x, y], to: [x, y], isMore }
  emit('track', note.at[0])
  if (isMore) {
    emit('choose', turned(props.chosen, note.at, props.clip.tracks.length))
    return null
  }
  if (!isChosen(props.chosen, note.at)) emit('choose', turned([], note.at, props.clip.tracks.length))
  return { kind: note.isEnd ? 'resize' : 'move', x, y, steps: 0, rows: 0, ticks: 0 }
}
function moveHand(event: PointerEvent) {
  const doing = hand.value
  const [x, y] = place(event)
  if (!doing) return
  if (doing.kind === 'box') hand.value = { ...doing, to: [x, y] }
  else if (doing.kind === 'velocity' || doing.kind === 'control') hand.value = paintedTo(doing, x, y)
  else {
    const isFree = !props.snaps || event.altKey || !props.stepTicks
    const { steps, ticks } = wayOf(x - doing.x, shown.value, isFree ? 0 : props.stepTicks)
    const rows = doing.kind === 'move' ? Math.round((y - doing.y) / shown.value.rowHeight) : 0
    hand.value = { ...doing, steps, ticks, rows }
  }
}
function onMove(event: PointerEvent) {
  if (drag.isHeld()) return
  const [x, y] = place(event)
  cursor.value = y > height.value - LOW ? 'crosshair' : cursorOver(x, y)
}
function letGo(isTakenAway: boolean) {
  const doing = hand.value
  hand.value = null
  if (!doing || isTakenAway) return
  if (doing.kind === 'box') return finishBox(doing)
  if (doing.kind === 'velocity')
    return emit('act', { kind: 'paint', values: [...doing.values.values()] }, doing.on.clip)
  if (doing.kind === 'control') return finishControl(doing)
  const { steps, ticks, rows } = doing
  if (!steps && !ticks && !rows) return
  if (doing.kind === 'resize') emit('act', { kind: 'resize', steps, step: props.step, ticks })
  else if (props.view === 'drums') emit('act', { kind: 'move', steps, step: props.step, ticks, rows })
  else emit('act', { kind: 'move', steps, step: props.step, ticks, semitones: -rows })
}
function finishBox({ from, to, isMore }: Hand & { kind: 'box' }) {
  const [left, right] = [from[0], to[0]].sort((a, b) => a - b) as [number, number]
  const [top, bottom] = [from[1], to[1]].sort((a, b) => a - b) as [number, number]
  const matches =
    right - left < 3 && bottom - top < 3
      ? props.clip.tracks.map(() => [])
      : notesWithin(props.clip.tracks, props.rows, [left, top - RULER, right, bottom - RULER], shown.value)
  if (!isMore) return emit('choose', matches)
  emit(
    'choose',
    matches.map((places, at) => [...new Set([...(props.chosen[at] ?? []), ...places])].sort((a, b) => a - b)),
  )
}
function onDouble(event: MouseEvent) {
  if (props.isReadonly) return
  const [x, y] = place(event)
  if (y > height.value - LOW || y < RULER) return
  const note = under(x, y)
  if (note) {
    emit('choose', turned([], note.at, props.clip.tracks.length)) // that one, whatever else is chosen
    return emit('act', { kind: 'delete' })
  }
  const row = props.rows[rowAt(y - RULER, shown.value)]
  if (!row) return
  const tick = Math.max(0, Math.round(tickIn(x, shown.value)))
  if (tick >= props.clip.length_ticks) return
  const track = row.track ?? props.track
  emit('act', { kind: 'add', track, tick, step: props.snaps ? props.step : null, pitch: row.pitch })
}

// ---- Painting below ----
type Painting = Hand & { kind: 'velocity' | 'control' }
function beginPainting(x: number, y: number): Painting {
  const last = [x, valueAt(y)] as const
  return paintedTo(
    props.control
      ? { kind: 'control', points: new Map(), last }
      : { kind: 'velocity', on: { clip: props.clip, chosen: props.chosen }, values: new Map(), last },
    x,
    y,
  )
}
const valueAt = (y: number) => valueBelow(y - (height.value - LOW))
function paintedTo(doing: Painting, x: number, y: number): Painting {
  const value = valueAt(y)
  const [from, first] = doing.last
  const [left, right] = from < x ? [from, x] : [x, from]
  /** The value of a stroke from there to here at a tick. */
  const along = (tick: number) => {
    const at = Math.min(right, Math.max(left, xIn(tick, shown.value)))
    return Math.round(x === from ? value : first + ((value - first) * (at - from)) / (x - from))
  }
  const last = [x, value] as const
  if (doing.kind === 'velocity') {
    const values = new Map(doing.values)
    const { clip, chosen } = doing.on
    const isAnyChosen = countOf(chosen) > 0
    clip.tracks.forEach(({ notes }, track) => {
      const end = firstFrom(notes, tickIn(right + 4, shown.value))
      for (let at = firstFrom(notes, tickIn(left - 4, shown.value)); at < end; at++) {
        const [start] = notes[at] ?? []
        if (start === undefined || (isAnyChosen && !isChosen(chosen, [track, at]))) continue
        values.set(`${track} ${at}`, [track, at, Math.max(1, along(start))])
      }
    })
    return { ...doing, values, last }
  }
  const points = new Map(doing.points)
  for (const { tick } of gridWithin(tickIn(left, shown.value), tickIn(right, shown.value), props.stepTicks))
    if (tick < props.clip.length_ticks) points.set(tick, along(tick))
  return { ...doing, points, last }
}
function finishControl({ points }: Hand & { kind: 'control' }) {
  const ticks = [...points.keys()].sort((a, b) => a - b)
  const [first, last] = [ticks[0], ticks.at(-1)]
  if (!props.control || first === undefined || last === undefined) return
  const end = Math.min(props.clip.length_ticks, ticksOfWay({ ticks: last, steps: 1 }, props.stepTicks))
  emit('act', {
    kind: 'controls', ...props.control, first_tick: first, end_tick: end,
    points: ticks.map((tick) => [tick, points.get(tick) ?? 0]),
  }) // prettier-ignore
}

// ---- Looking around ----
const cursor = ref('crosshair')
function cursorOver(x: number, y: number) {
  const note = under(x, y)
  return note ? (note.isEnd ? 'ew-resize' : 'grab') : 'crosshair'
}
function onWheel(event: WheelEvent) {
  const now = shown.value
  if (event.ctrlKey) {
    const [x] = place(event)
    zoom(event.deltaY < 0 ? 1.25 : 0.8, x)
  } else if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY))
    scrollTo(tickIn(event.deltaY + event.deltaX, now), now.top)
  else scrollTo(now.firstTick, now.top + event.deltaY)
}
function zoom(by: number, x = width.value / 2) {
  const now = shown.value
  shown.value = { ...now, ...zoomed(now, by, x, width.value, props.clip.length_ticks) }
  scrollTo(shown.value.firstTick, now.top)
}
function scrollTo(tick: number, top: number) {
  const now = shown.value
  const lastTop = Math.max(0, props.rows.length * now.rowHeight - sheetHeight.value)
  shown.value = {
    ...now,
    firstTick: scrolledTo(tick, now, width.value, props.clip.length_ticks),
    top: Math.min(lastTop, Math.max(0, top)),
  }
}
/** The most bars that are in view at first. */
const MOST_BARS = 16
/** All of the clip in view; where it is very long, its first bars. */
function showAll() {
  if (!width.value || !sheetHeight.value) return
  const ticks = Math.min(props.clip.length_ticks, startOfBar(MOST_BARS, barTicks.value))
  const rowHeight = Math.min(
    52,
    Math.max(props.view === 'drums' ? 22 : 12, sheetHeight.value / Math.max(1, props.rows.length)),
  )
  shown.value = { ...filling(ticks, width.value), rowHeight, top: 0 }
}
watch(
  [width, sheetHeight, () => props.view, () => props.rows.length, () => props.clip.length_ticks],
  showAll,
  { immediate: true },
)
defineExpose({ zoom, showAll })

function draw() {
  if (!canvas.value) return
  const { clip, rows, chosen, control } = props
  drawSheet(canvas.value, {
    clip, rows, chosen, control, window: shown.value, width: width.value, height: height.value, barTicks: barTicks.value,
    stepTicks: props.stepTicks, hand: hand.value, nowTick: props.isPlaying ? props.nowTick() : null,
  }) // prettier-ignore
}
useFrames(
  draw,
  () => props.isPlaying,
  () => [
    props.clip, props.rows, props.chosen, props.stepTicks, props.control, shown.value, hand.value, width.value, height.value,
    props.isReadonly,
  ],
  40,
) // prettier-ignore
</script>

<template>
  <div
    ref="box"
    class="sheet inked"
    role="application"
    aria-label="Note sheet: arrows move the chosen notes, Delete removes them"
    :style="{ cursor: isReadonly ? 'default' : cursor }"
    v-bind="drag.on"
    @pointermove="onMove"
    @dblclick="onDouble"
    @wheel.prevent="onWheel"
  >
    <canvas ref="canvas" v-bind="canvasOf(width, height)" />
  </div>
</template>

<style scoped>
.sheet {
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  touch-action: none;
  background: var(--paper);
}
canvas {
  position: absolute;
  inset: 0;
}
</style>

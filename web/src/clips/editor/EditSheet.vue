<script setup lang="ts">
/**
 * The notes of a clip, to be taken hold of: a click chooses, a drag moves or draws a box, an end is drawn longer, a double
 * click adds or removes. Below them velocities, or a controller, to be painted over.
 */
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'

import type { Action } from '@/api/clips'
import type { Schemas } from '@/api/client'
import { canvasOf, useFrames } from '@/page/useFrames'
import { ticksOfBar } from '@/sound/time'
import { drawSheet, LOW, RULER, valueBelow, type Hand } from './drawing'
import {
  firstFrom, isChosen, notesWithin, noteUnder, rowAt, tickAt, turned, xOf,
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
const emit = defineEmits<{ act: [action: Action]; choose: [chosen: number[][]]; track: [track: number] }>()
const shown = defineModel<Window>('window', { required: true })

const box = useTemplateRef<HTMLElement>('box')
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box)
const sheetHeight = computed(() => Math.max(0, height.value - LOW - RULER))
const barTicks = computed(() => ticksOfBar(props.clip.meter))

// ---- What a hand is doing ----
type Note = Schemas['Note']
const hand = ref<Hand | null>(null)

const place = (event: PointerEvent | MouseEvent) => {
  const rect = box.value?.getBoundingClientRect()
  return [event.clientX - (rect?.left ?? 0), event.clientY - (rect?.top ?? 0)] as const
}
const under = (x: number, y: number) => noteUnder(props.clip.tracks, props.rows, x, y - RULER, shown.value)

function onDown(event: PointerEvent) {
  if (event.button !== 0 || props.isReadonly) return
  box.value?.setPointerCapture(event.pointerId)
  const [x, y] = place(event)
  if (y > height.value - LOW) return beginPainting(x, y)
  const note = under(x, y)
  if (!note) {
    hand.value = { kind: 'box', from: [x, y], to: [x, y], isMore: event.shiftKey }
    return
  }
  emit('track', note.at[0])
  if (event.shiftKey) {
    emit('choose', turned(props.chosen, note.at, props.clip.tracks.length))
    return
  }
  if (!isChosen(props.chosen, note.at)) emit('choose', turned([], note.at, props.clip.tracks.length))
  hand.value = { kind: note.isEnd ? 'resize' : 'move', x, y, steps: 0, rows: 0, ticks: 0 }
}
function onMove(event: PointerEvent) {
  const doing = hand.value
  const [x, y] = place(event)
  if (!doing) return void (cursor.value = y > height.value - LOW ? 'crosshair' : cursorOver(x, y))
  if (doing.kind === 'box') hand.value = { ...doing, to: [x, y] }
  else if (doing.kind === 'velocity' || doing.kind === 'control') paintTo(doing, x, y)
  else {
    const ticks = (x - doing.x) / shown.value.perTick
    const free = !props.snaps || event.altKey || !props.stepTicks
    hand.value = {
      ...doing,
      steps: free ? 0 : Math.round(ticks / props.stepTicks),
      ticks: free ? Math.round(ticks) : 0,
      rows: doing.kind === 'move' ? Math.round((y - doing.y) / shown.value.rowHeight) : 0,
    }
  }
}
function onUp() {
  const doing = hand.value
  hand.value = null
  if (!doing) return
  if (doing.kind === 'box') return finishBox(doing)
  if (doing.kind === 'velocity')
    return emit('act', { kind: 'paint', values: [...doing.values.values()] as never })
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
  const found =
    right - left < 3 && bottom - top < 3
      ? props.clip.tracks.map(() => [])
      : notesWithin(props.clip.tracks, props.rows, [left, top - RULER, right, bottom - RULER], shown.value)
  if (!isMore) return emit('choose', found)
  emit(
    'choose',
    found.map((places, at) => [...new Set([...(props.chosen[at] ?? []), ...places])].sort((a, b) => a - b)),
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
  const tick = Math.max(0, Math.round(tickAt(x, shown.value)))
  if (tick >= props.clip.length_ticks) return
  const track = row.track ?? props.track
  emit('act', { kind: 'add', track, tick, step: props.snaps ? props.step : null, pitch: row.pitch })
}

// ---- Painting below ----
function beginPainting(x: number, y: number) {
  const last = [x, valueAt(y)] as const
  const doing: Hand = props.control
    ? { kind: 'control', points: new Map(), last }
    : { kind: 'velocity', values: new Map(), last }
  paintTo(doing, x, y)
}
const valueAt = (y: number) => valueBelow(y - (height.value - LOW))
const painted = computed(() => props.chosen.some((places) => places.length > 0))
function paintTo(doing: Hand & { kind: 'velocity' | 'control' }, x: number, y: number) {
  const value = valueAt(y)
  const [from, first] = doing.last
  const [left, right] = from < x ? [from, x] : [x, from]
  const along = (at: number) =>
    Math.round(x === from ? value : first + ((value - first) * (at - from)) / (x - from))
  if (doing.kind === 'velocity') {
    const values = new Map(doing.values)
    props.clip.tracks.forEach(({ notes }, track) => {
      const end = firstFrom(notes, tickAt(right + 4, shown.value))
      for (let at = firstFrom(notes, tickAt(left - 4, shown.value)); at < end; at++) {
        if (painted.value && !isChosen(props.chosen, [track, at])) continue
        const hard = Math.max(
          1,
          along(Math.min(right, Math.max(left, xOf((notes[at] as Note)[0], shown.value)))),
        )
        values.set(`${track} ${at}`, [track, at, hard])
      }
    })
    hand.value = { ...doing, values, last: [x, value] }
  } else if (props.stepTicks) {
    const points = new Map(doing.points)
    const first = Math.max(0, Math.floor(tickAt(left, shown.value) / props.stepTicks))
    const last = Math.floor(tickAt(right, shown.value) / props.stepTicks)
    for (let at = first; at <= last; at++) {
      const tick = Math.round(at * props.stepTicks)
      if (tick < props.clip.length_ticks)
        points.set(tick, along(Math.min(right, Math.max(left, xOf(tick, shown.value)))))
    }
    hand.value = { ...doing, points, last: [x, value] }
  }
}
function finishControl({ points }: Hand & { kind: 'control' }) {
  const ticks = [...points.keys()].sort((a, b) => a - b)
  const [first, last] = [ticks[0], ticks.at(-1)]
  if (!props.control || first === undefined || last === undefined) return
  const end = Math.min(props.clip.length_ticks, Math.round(last + props.stepTicks))
  emit('act', {
    kind: 'controls', ...props.control, first_tick: first, end_tick: end,
    points: ticks.map((tick) => [tick, points.get(tick) ?? 0]) as never,
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
    scrollTo(now.firstTick + (event.deltaY + event.deltaX) / now.perTick, now.top)
  else scrollTo(now.firstTick, now.top + event.deltaY)
}
function zoom(by: number, x = width.value / 2) {
  const now = shown.value
  const least = width.value / props.clip.length_ticks
  const perTick = Math.min(0.5, Math.max(least, now.perTick * by))
  const tick = tickAt(x, now)
  shown.value = { ...now, perTick }
  scrollTo(tick - x / perTick, now.top)
}
function scrollTo(tick: number, top: number) {
  const now = shown.value
  const lastTick = Math.max(0, props.clip.length_ticks - width.value / now.perTick)
  const lastTop = Math.max(0, props.rows.length * now.rowHeight - sheetHeight.value)
  shown.value = {
    ...now,
    firstTick: Math.min(lastTick, Math.max(0, tick)),
    top: Math.min(lastTop, Math.max(0, top)),
  }
}
/** All of the clip in view; where it is very long, its first bars. */
function showAll() {
  if (!width.value || !sheetHeight.value) return
  const bars = Math.min(props.clip.length_ticks, 16 * barTicks.value)
  const rowHeight = Math.min(
    52,
    Math.max(props.view === 'drums' ? 22 : 12, sheetHeight.value / Math.max(1, props.rows.length)),
  )
  shown.value = { firstTick: 0, perTick: width.value / bars, rowHeight, top: 0 }
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
    @pointerdown="onDown"
    @pointermove="onMove"
    @pointerup="onUp"
    @pointercancel="hand = null"
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

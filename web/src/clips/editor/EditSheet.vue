<script setup lang="ts">
/**
 * The notes of a clip, to be taken hold of: a click chooses, a drag moves or draws a box, an end is drawn longer, a double
 * click adds or removes. Below them velocities, or a controller, to be painted over.
 */
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'

import type { Action } from '@/api/clips'
import type { Schemas } from '@/api/client'
import { canvasOf, useFrames } from '@/composables/useFrames'
import { ticksOfBar } from '@/sound/time'
import { inkOf } from '@/theme/inks'
import {
  firstFrom, isChosen, MIN_WIDTH, notesWithin, noteUnder, rowAt, rowOf, stepTicks, tickAt, turned, xOf,
  type SheetRow, type View, type Window,
} from './layout' // prettier-ignore

const props = defineProps<{
  clip: Schemas['Clip']
  rows: readonly SheetRow[]
  view: View
  chosen: readonly (readonly number[])[]
  step: Required<Schemas['StepValue']>
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

const LOW = 92 // pixels for what is painted below
const RULER = 22
const box = useTemplateRef<HTMLElement>('box')
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box)
const sheetHeight = computed(() => Math.max(0, height.value - LOW - RULER))
const step = computed(() => stepTicks(props.step))
const barTicks = computed(() => ticksOfBar(props.clip.meter))

// ---- What a hand is doing ----
type Note = Schemas['Note']
type Hand =
  | { kind: 'move' | 'resize'; x: number; y: number; steps: number; rows: number; ticks: number }
  | { kind: 'box'; from: readonly [number, number]; to: readonly [number, number]; isMore: boolean }
  | {
      kind: 'velocity'
      values: Map<string, readonly [number, number, number]>
      last: readonly [number, number]
    }
  | { kind: 'control'; points: Map<number, number>; last: readonly [number, number] }
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
    const free = !props.snaps || event.altKey
    hand.value = {
      ...doing,
      steps: free ? 0 : Math.round(ticks / step.value),
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
const valueAt = (y: number) => {
  const share = 1 - (y - (height.value - LOW + 8)) / (LOW - 12)
  return Math.round(Math.min(1, Math.max(0, share)) * 127)
}
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
  } else {
    const points = new Map(doing.points)
    const first = Math.max(0, Math.floor(tickAt(left, shown.value) / step.value))
    const last = Math.floor(tickAt(right, shown.value) / step.value)
    for (let at = first; at <= last; at++) {
      const tick = Math.round(at * step.value)
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
  const end = Math.min(props.clip.length_ticks, Math.round(last + step.value))
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

// ---- Drawing ----
const shades = { paper: '', card: '', ink: '', soft: '', rule: '', act: '', keep: '' }
function readShades() {
  const style = getComputedStyle(box.value ?? document.body)
  const of = (name: string) => style.getPropertyValue(name).trim()
  Object.assign(shades, {
    paper: of('--paper'), card: of('--card'), ink: of('--ink'), soft: of('--soft-ink'), rule: of('--rule'), act: of('--act'),
    keep: of('--keep'),
  }) // prettier-ignore
}
function draw() {
  const context = canvas.value?.getContext('2d')
  if (!context || !width.value) return
  readShades()
  const pixel = window.devicePixelRatio
  context.setTransform(pixel, 0, 0, pixel, 0, 0)
  context.clearRect(0, 0, width.value, height.value)
  drawGrid(context)
  context.save()
  context.beginPath()
  context.rect(0, RULER, width.value, sheetHeight.value)
  context.clip()
  drawNotes(context)
  context.restore()
  drawBelow(context)
  drawHand(context)
  if (props.isPlaying) {
    context.fillStyle = shades.act
    context.fillRect(xOf(props.nowTick(), shown.value) - 1, 0, 2, height.value)
  }
}
function drawGrid(context: CanvasRenderingContext2D) {
  const { rowHeight, top, firstTick, perTick } = shown.value
  context.fillStyle = shades.card
  context.fillRect(0, RULER, xOf(props.clip.length_ticks, shown.value), sheetHeight.value)
  // A thread a row, as in the lattice; of pitches each C is the stronger one.
  props.rows.forEach((row, at) => {
    const y = RULER + (at + 0.5) * rowHeight - top
    if (y < RULER || y > RULER + sheetHeight.value) return
    const isStrong = row.pitch !== null && row.pitch % 12 === 0
    context.fillStyle =
      row.track === null
        ? isStrong
          ? shades.soft
          : shades.rule
        : inkOf(props.clip.tracks[row.track]?.ink ?? 0)
    context.globalAlpha = row.track === null ? (isStrong ? 0.6 : 0.75) : 0.35
    context.fillRect(0, y - 0.5, width.value, 1.2)
  })
  context.globalAlpha = 1
  context.font = '600 12px "Atkinson Hyperlegible Next Variable"'
  const lastTick = Math.min(props.clip.length_ticks, tickAt(width.value, shown.value))
  const isWide = step.value * perTick >= 7
  const by = isWide ? step.value : barTicks.value
  for (let at = Math.max(0, Math.floor(firstTick / by)); at * by <= lastTick; at++) {
    const isBar =
      Math.abs((at * by) % barTicks.value) < 1 || barTicks.value - ((at * by) % barTicks.value) < 1
    const x = xOf(at * by, shown.value)
    context.fillStyle = isBar ? shades.soft : shades.rule
    context.fillRect(x, isBar ? 4 : RULER, isBar ? 1.5 : 1, height.value)
    if (isBar && at * by < props.clip.length_ticks) {
      context.fillStyle = shades.ink
      context.fillText(String(Math.round((at * by) / barTicks.value) + 1), x + 5, 15)
    }
  }
}
/** Beads that were drawn before, by colour and size: thousands of them are stamped faster than drawn. */
const stamps = new Map<string, OffscreenCanvas>()
function stampBead(context: CanvasRenderingContext2D, colour: string, x: number, y: number, r: number) {
  const size = Math.round(r * 2)
  const key = `${colour} ${size}`
  let stamp = stamps.get(key)
  if (!stamp) {
    stamp = new OffscreenCanvas(size * 4, size * 4)
    const pen = stamp.getContext('2d')
    if (pen) {
      pen.fillStyle = colour
      pen.arc(size * 2, size * 2, size * 2, 0, 2 * Math.PI)
      pen.fill()
    }
    stamps.set(key, stamp)
  }
  context.drawImage(stamp, x, y - size / 2, size, size)
}

/** The longest note of each track: how far before the view one may begin that reaches into it. */
const longest = computed(() =>
  props.clip.tracks.map(({ notes }) => notes.reduce((most, [, length]) => Math.max(most, length), 0)),
)
/** Beads as large as notes are loud, with tails as long as they sound. */
function drawNotes(context: CanvasRenderingContext2D) {
  const { rowHeight, top, firstTick, perTick } = shown.value
  const doing = hand.value
  const lastTick = tickAt(width.value, shown.value)
  const isMoved = doing?.kind === 'move' || doing?.kind === 'resize'
  const [by, rowsBy] = isMoved ? [doing.ticks + Math.round(doing.steps * step.value), doing.rows] : [0, 0]
  props.clip.tracks.forEach(({ notes, ink }, track) => {
    const chosen = new Set(props.chosen[track] ?? [])
    const colour = inkOf(ink)
    const rings = new Path2D()
    context.fillStyle = colour
    const end = isMoved ? notes.length : firstFrom(notes, lastTick)
    const first = isMoved ? 0 : firstFrom(notes, firstTick - (longest.value[track] ?? 0))
    for (let place = first; place < end; place++) {
      const [start, length, pitch, velocity] = notes[place] as Note
      const isMeant = chosen.has(place)
      const isHeld = isMeant && doing?.kind === 'move'
      const begin = isHeld ? start + by : start
      const long = isMeant && doing?.kind === 'resize' ? Math.max(1, length + by) : length
      if (begin + long < firstTick || begin > lastTick) continue
      const row = rowOf(props.rows, track, pitch) + (isHeld ? rowsBy : 0)
      const [x, y] = [xOf(begin, shown.value), RULER + (row + 0.5) * rowHeight - top]
      if (y + rowHeight < RULER || y - rowHeight > RULER + sheetHeight.value) continue
      const following = notes[place + 1]?.[0] ?? Infinity
      const apart = following > start ? (following - start) * perTick : Infinity
      const r = Math.max(1.5, Math.min(11, rowHeight / 2 - 1, apart / 2)) * (0.42 + 0.58 * (velocity / 127))
      const wide = Math.max(MIN_WIDTH, long * perTick - 1)
      if (wide > 2 * r) {
        context.globalAlpha = 0.34
        context.fillRect(x + r, y - r * 0.55, wide - r, r * 1.1)
        context.globalAlpha = 1
      }
      stampBead(context, colour, x, y, r)
      if (isMeant) rings.roundRect(x - 2, y - r - 2, Math.max(wide, 2 * r) + 4, 2 * r + 4, r + 2)
    }
    context.strokeStyle = shades.ink
    context.lineWidth = 2
    context.stroke(rings)
  })
}
function drawBelow(context: CanvasRenderingContext2D) {
  const top = height.value - LOW
  context.fillStyle = shades.paper
  context.fillRect(0, top, width.value, LOW)
  context.fillStyle = shades.soft
  context.fillRect(0, top, width.value, 1.5)
  const floor = height.value - 4
  const tall = (value: number) => (value / 127) * (LOW - 12)
  if (props.control) return drawControl(context, floor, tall)
  const values = hand.value?.kind === 'velocity' ? hand.value.values : null
  const [firstTick, lastTick] = [tickAt(-6, shown.value), tickAt(width.value, shown.value)]
  props.clip.tracks.forEach(({ notes, ink }, track) => {
    const end = firstFrom(notes, lastTick)
    const chosen = new Set(props.chosen[track] ?? [])
    context.fillStyle = inkOf(ink)
    for (let at = firstFrom(notes, firstTick); at < end; at++) {
      const [start, , , hard] = notes[at] as Note
      const high = tall(values?.get(`${track} ${at}`)?.[2] ?? hard)
      const x = xOf(start, shown.value)
      context.globalAlpha = painted.value && !chosen.has(at) ? 0.18 : 0.85
      context.fillRect(x, floor - high, 3, high)
      context.fillRect(x - 1, floor - high, 5, 3)
    }
  })
  context.globalAlpha = 1
}
function drawControl(context: CanvasRenderingContext2D, floor: number, tall: (value: number) => number) {
  const { track, controller } = props.control ?? { track: 0, controller: 0 }
  const now = hand.value?.kind === 'control' ? hand.value.points : new Map<number, number>()
  const stored = (props.clip.tracks[track]?.controls ?? []).filter((point) => point[1] === controller)
  const points = [
    ...stored.filter(([tick]) => !now.has(tick)).map(([tick, , value]) => [tick, value] as const),
    ...now,
  ].sort((one, other) => one[0] - other[0])
  context.strokeStyle = context.fillStyle = inkOf(props.clip.tracks[track]?.ink ?? 0)
  context.lineWidth = 2
  context.beginPath()
  points.forEach(([tick, value], at) => {
    const [x, y] = [xOf(tick, shown.value), floor - tall(value)]
    const next = points[at + 1]?.[0] ?? props.clip.length_ticks
    context.moveTo(x, y)
    context.lineTo(xOf(next, shown.value), y)
    context.fillRect(x - 2, y - 2, 5, 5)
  })
  context.stroke()
}
function drawHand(context: CanvasRenderingContext2D) {
  const doing = hand.value
  if (doing?.kind !== 'box') return
  const [x, y] = [Math.min(doing.from[0], doing.to[0]), Math.min(doing.from[1], doing.to[1])]
  const [w, h] = [Math.abs(doing.to[0] - doing.from[0]), Math.abs(doing.to[1] - doing.from[1])]
  context.fillStyle = `color-mix(in srgb, ${shades.keep} 25%, transparent)`
  context.fillRect(x, y, w, h)
  context.strokeStyle = shades.ink
  context.lineWidth = 1.2
  context.setLineDash([5, 3])
  context.strokeRect(x, y, w, h)
  context.setLineDash([])
}
useFrames(
  draw,
  () => props.isPlaying,
  () => [
    props.clip, props.rows, props.chosen, props.step, props.control, shown.value, hand.value, width.value, height.value,
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

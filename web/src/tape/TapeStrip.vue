<script setup lang="ts">
/** The last bars that sounded. A drag over it keeps the bars it touches; the outline is what the key and button keep. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'

import { useDrag } from '@/page/useDrag'
import { canvasOf, useFrames } from '@/page/useFrames'
import { barsOn, shareOfBar, wrapped } from '@/sound/time'
import { inkOf } from '@/theme/inks'
import { BARS_ON_TAPE, type Tape, type TapeBar, type TapeStretch } from '@/sound/tape'
import { lanesOf, notesOfBar } from './barNotes'
import { draggedBars, lastWholeBars, type ChosenBars } from './choosing'

const props = defineProps<{ tape: Tape; isPlaying: boolean; keptBars: number }>()
const emit = defineEmits<{ keep: [bars: ChosenBars] }>()

const box = useTemplateRef<HTMLElement>('box')
const canvas = ref<HTMLCanvasElement>()
const { width, height } = useElementSize(box)
const columnWidth = computed(() => width.value / BARS_ON_TAPE)
const isEmpty = ref(true)
let bars: TapeBar[] = []
let drag: { from: number; to: number } | null = null

function draw() {
  const surface = canvas.value
  const context = surface?.getContext('2d')
  if (!surface || !context) return
  bars = props.tape.lastBars()
  isEmpty.value = bars.length === 0
  const pixel = window.devicePixelRatio
  context.setTransform(pixel, 0, 0, pixel, 0, 0)
  context.clearRect(0, 0, width.value, height.value)
  const rows = rowsOf(bars)
  bars.forEach((bar, at) => drawBar(context, bar, at, rows, bars[at - 1]))
  const chosen = drag ? draggedBars(bars, drag.from, drag.to) : lastWholeBars(bars, props.keptBars)
  if (chosen) outline(context, chosen.from, chosen.to, drag !== null)
}

/** Every lane on the tape has a line of its own. */
function rowsOf(shown: readonly TapeBar[]): Map<string, number> {
  const ids = new Set(
    [...new Set(shown.map(({ stretch }) => stretch))].flatMap((stretch) => [
      ...stretch.score.lanes.map(({ id }) => id),
      ...lanesOf(stretch),
    ]),
  )
  return new Map([...ids].map((id, at) => [id, at]))
}

function drawBar(
  context: CanvasRenderingContext2D,
  { stretch, bar, sounded }: TapeBar,
  at: number,
  rows: ReadonlyMap<string, number>,
  before?: TapeBar,
) {
  const left = at * columnWidth.value
  const isNewStretch = before !== undefined && before.stretch !== stretch
  context.fillStyle = isNewStretch || at === 0 ? '#f5f0e6aa' : '#f5f0e63a'
  context.fillRect(left, 4, isNewStretch ? 2 : 1, height.value - 8)
  context.fillStyle = '#c9c0d6'
  context.font = '11px "Atkinson Hyperlegible Next Variable"'
  // Where bars are narrow, as many of them have a number as have room for it.
  const apart = Math.ceil((context.measureText(String(bar + 1)).width + 8) / columnWidth.value)
  if (isNewStretch || wrapped(bar, apart) === 0) context.fillText(String(bar + 1), left + 4, 13)
  if (sounded < 1) drawNotes(context, stretch, bar, left, rows)
  else {
    const picture = pictureOf(stretch, bar, rows)
    context.drawImage(
      picture,
      left,
      0,
      picture.width / window.devicePixelRatio,
      picture.height / window.devicePixelRatio,
    )
  }
  if (props.isPlaying && at === bars.length - 1) {
    context.fillStyle = '#d9482b'
    context.fillRect(left + sounded * columnWidth.value, 2, 2, height.value - 4)
  }
}

function drawNotes(
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  stretch: TapeStretch,
  bar: number,
  left: number,
  rows: ReadonlyMap<string, number>,
) {
  const rowHeight = Math.min(9, (height.value - 22) / Math.max(1, rows.size))
  for (const note of notesOfBar(stretch, bar)) {
    if (note.start > stretch.nowTick) continue
    const share = shareOfBar(note.start, bar, stretch.barTicks)
    const x = left + share * columnWidth.value
    context.fillStyle = brighter(inkOf(note.ink))
    context.globalAlpha = 0.35 + 0.65 * (note.velocity / 127)
    context.fillRect(x, 18 + (rows.get(note.laneId) ?? 0) * rowHeight, 2.4, Math.max(2, rowHeight - 1.6))
  }
  context.globalAlpha = 1
}

/** Bars that have sounded whole are drawn once, and then laid down at every frame. */
const pictures = new WeakMap<TapeStretch, Map<number, { as: string; canvas: OffscreenCanvas }>>()
function pictureOf(stretch: TapeStretch, bar: number, rows: ReadonlyMap<string, number>): OffscreenCanvas {
  const pixel = window.devicePixelRatio
  const [wide, high] = [Math.ceil((columnWidth.value + 3) * pixel), Math.ceil(height.value * pixel)]
  // What was withdrawn or played since is drawn too.
  const as = [wide, high, notesOfBar(stretch, bar).length, ...rows.keys()].join(' ')
  const ofStretch = pictures.get(stretch) ?? new Map<number, { as: string; canvas: OffscreenCanvas }>()
  pictures.set(stretch, ofStretch)
  const before = ofStretch.get(bar)
  if (before?.as === as) return before.canvas
  const canvas = new OffscreenCanvas(Math.max(1, wide), Math.max(1, high))
  const context = canvas.getContext('2d')
  if (context) {
    context.setTransform(pixel, 0, 0, pixel, 0, 0)
    drawNotes(context, stretch, bar, 0, rows)
  }
  for (const old of ofStretch.keys()) if (old < barsOn(bar, -BARS_ON_TAPE)) ofStretch.delete(old)
  ofStretch.set(bar, { as, canvas })
  return canvas
}

const brighter = (ink: string) => `color-mix(in srgb, ${ink} 62%, white)`

function outline(context: CanvasRenderingContext2D, from: number, to: number, isDragged: boolean) {
  const [left, right] = [from * columnWidth.value, to * columnWidth.value]
  context.strokeStyle = '#f6b73c'
  context.lineWidth = 2
  context.beginPath()
  context.roundRect(left + 1, 1, right - left - 2, height.value - 2, 8)
  context.stroke()
  if (!isDragged) return
  context.fillStyle = '#f6b73c33'
  context.fill()
}

const columnAt = (event: PointerEvent) => {
  const left = box.value?.getBoundingClientRect().left ?? 0
  return Math.floor((event.clientX - left) / (columnWidth.value || 1))
}
const hand = useDrag((event) => {
  if (!bars.length) return null
  drag = { from: columnAt(event), to: columnAt(event) }
  draw()
  return {
    move(moved) {
      if (drag) drag.to = columnAt(moved)
      draw()
    },
    end(isTakenAway) {
      const chosen = drag && draggedBars(bars, drag.from, drag.to)
      drag = null
      draw()
      if (chosen && !isTakenAway) emit('keep', chosen)
    },
  }
})

// ---- The same by keyboard: arrows choose bars, Enter keeps them ----
const says = ref('')
const saidOf = ({ stretches, first, end, from, to }: ChosenBars) =>
  stretches.length === 1 ? `bars ${first + 1} to ${end}` : `${to - from} bars over a switch`
function walk(event: KeyboardEvent) {
  const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (event.ctrlKey || event.altKey || event.metaKey || !bars.length) return
  if (by) {
    const last = bars.length - 1
    const within = (at: number) => Math.min(last, Math.max(0, at))
    if (!drag) drag = { from: last, to: last }
    else if (event.shiftKey) drag.to = within(drag.to + by)
    else drag = { from: within(drag.to + by), to: within(drag.to + by) }
    const chosen = draggedBars(bars, drag.from, drag.to)
    says.value = chosen ? saidOf(chosen) : 'no whole bar'
  } else if (event.key === 'Enter' && drag) {
    const chosen = draggedBars(bars, drag.from, drag.to)
    drag = null
    if (chosen) emit('keep', chosen)
  } else return
  draw()
  event.preventDefault()
  event.stopPropagation()
}
function leave() {
  drag = null
  says.value = ''
  draw()
}

useFrames(
  draw,
  () => props.isPlaying,
  () => [props.tape, props.keptBars, width.value, height.value],
  30,
)
</script>

<template>
  <div
    ref="box"
    class="tape"
    role="slider"
    tabindex="0"
    data-owns-keys
    aria-label="Tape: the last 16 bars that sounded. Drag over bars to keep them, or choose them with the arrows, with Shift several, and Enter."
    aria-valuenow="0"
    :aria-valuetext="says || 'no bar chosen'"
    v-bind="hand.on"
    @keydown="walk"
    @blur="leave"
  >
    <canvas ref="canvas" v-bind="canvasOf(width, height)" />
    <p v-if="isEmpty">The tape. What you play runs by here; drag over bars to keep them.</p>
  </div>
</template>

<style scoped>
.tape {
  position: relative;
  flex: 1;
  min-width: 0;
  align-self: stretch;
  cursor: crosshair;
  touch-action: none;
  border-radius: 8px;
  background: color-mix(in srgb, var(--deck) 88%, white);
  overflow: hidden;
}
canvas {
  position: absolute;
  inset: 0;
}
p {
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  padding-inline: 12px;
  font-size: 14px;
  line-height: 18px;
  color: var(--on-deck-soft);
  pointer-events: none;
}
</style>

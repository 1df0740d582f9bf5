<script setup lang="ts">
/** The candidates as points. Pointing at one shows and plays it, arrows go to the next, a drag draws a box. */
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'

import type { FieldPicture } from '@/engine/around'
import { onArrival } from '@/engine/onArrival'
import { useInTurn } from '@/page/asking'
import { useDrag } from '@/page/useDrag'
import { canvasOf } from '@/page/useFrames'
import { boxOf, dotsOf, isInside, nearest, towards, type Axes, type Box, type Dot, type Place } from './plot'

const props = defineProps<{
  field: FieldPicture
  /** Another field is on its way. */
  isBehind: boolean
  axes: Axes
  /** The number of the candidate that is shown; null: the start. */
  pointed: number | null
  /** Numbers that were heard, in order. */
  heard: readonly number[]
  theme: string
}>()
const emit = defineEmits<{ point: [number: number | null]; take: [] }>()
const REACH = 22

const element = useTemplateRef<HTMLElement>('element')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(element)
const all = computed(() =>
  dotsOf([props.field.start, ...props.field.points], props.axes, width.value, height.value),
)
const box = ref<Box | null>(null)
const start = computed(() => all.value[0])
const dots = computed(() => {
  const within = box.value
  const [, ...points] = all.value
  return within ? points.filter((dot) => isInside(dot, within)) : points
})
const shown = computed(() => [...dots.value, ...(start.value ? [start.value] : [])])
const byNumber = computed(() => new Map(all.value.map((dot) => [dot.point.number, dot])))
const here = computed(() => byNumber.value.get(props.pointed ?? -1) ?? start.value)
const path = computed(() =>
  props.heard.map((number) => byNumber.value.get(number)).filter((dot) => dot !== undefined),
)
const line = computed(() => {
  const from = start.value
  return from && path.value.length
    ? `M${from.x} ${from.y}${path.value.map(({ x, y }) => `L${x} ${y}`).join('')}`
    : ''
})
watch(
  () => props.field,
  () => (box.value = null),
)

/** Once for a field, not for each movement of the hand. */
function draw() {
  const context = canvas.value?.getContext('2d')
  if (!context || !element.value) return
  const pixel = window.devicePixelRatio
  const style = getComputedStyle(element.value)
  context.setTransform(pixel, 0, 0, pixel, 0, 0)
  context.clearRect(0, 0, width.value, height.value)
  const furthest = Math.max(1e-9, ...dots.value.map(({ point }) => point.distance))
  context.fillStyle = style.getPropertyValue('--point').trim()
  for (const { point, x, y } of dots.value) {
    const near = 1 - point.distance / furthest
    context.globalAlpha = 0.4 + 0.5 * near
    context.beginPath()
    context.arc(x, y, 4 + 4 * near, 0, 2 * Math.PI)
    context.fill()
  }
}
watch([dots, width, height, () => props.theme], draw, { flush: 'post' })

const placeOf = ({ clientX, clientY }: PointerEvent): Place => {
  const at = element.value?.getBoundingClientRect()
  return { x: clientX - (at?.left ?? 0), y: clientY - (at?.top ?? 0) }
}
/** Hands that are ahead of a new field mean what will be there: what they do counts on it, in its order. */
const turns = useInTurn()
const inTurn = (act: () => void) =>
  void turns.run(async () => {
    if (!(await onArrival(() => (props.isBehind ? undefined : props.field)))) return
    act()
    await nextTick()
  })
const go = (dot: Dot | null | undefined) => {
  const number = dot ? dot.point.number : -1
  if (number !== (props.pointed ?? -1)) emit('point', number < 0 ? null : number)
}
const drawn = ref<Box | null>(null)
const drag = useDrag((event) => {
  const from = placeOf(event)
  element.value?.focus({ preventScroll: true })
  return {
    move(event) {
      const to = placeOf(event)
      if (drawn.value || Math.hypot(to.x - from.x, to.y - from.y) > 6) drawn.value = boxOf(from, to)
    },
    end() {
      const found = drawn.value
      drawn.value = null
      inTurn(() => {
        if (found) box.value = found
        else go(nearest(shown.value, from, REACH))
      })
    },
  }
})
function onHover(event: PointerEvent) {
  if (drag.isHeld() || event.pointerType === 'touch' || props.isBehind) return
  const found = nearest(shown.value, placeOf(event), REACH)
  if (found) go(found)
}
function actOf({ key, altKey, ctrlKey }: KeyboardEvent): (() => void) | null {
  if (key === 'Enter') return () => emit('take')
  if (key === 'Escape' && box.value) return () => (box.value = null)
  if (key === 'Home') return () => go(start.value)
  if (!key.startsWith('Arrow') || altKey || ctrlKey) return null
  return () => {
    const next = here.value && towards(shown.value, here.value, key)
    if (next) go(next)
  }
}
function onKeyDown(event: KeyboardEvent) {
  const act = actOf(event)
  if (!act) return
  inTurn(act)
  event.preventDefault()
  event.stopPropagation()
}
const words = computed(() =>
  props.axes === 'beat'
    ? { up: '↑ busier', left: '← on the beat', right: 'more syncopated →' }
    : { up: '↑ further from the start', left: '← uneven', right: 'even →' },
)
</script>

<template>
  <div
    ref="element"
    class="plot"
    tabindex="0"
    role="application"
    data-owns-keys
    aria-roledescription="field of patterns"
    :aria-busy="isBehind"
    :aria-label="`Field: ${dots.length} patterns. Arrow keys go to the next, Home to the start, Enter takes one.`"
    v-bind="drag.on"
    @pointermove="onHover"
    @keydown="onKeyDown"
  >
    <canvas ref="canvas" v-bind="canvasOf(width, height)" aria-hidden="true" />
    <svg class="over" :width="width" :height="height" aria-hidden="true">
      <rect
        v-if="drawn ?? box"
        class="box"
        :x="(drawn ?? box)!.left"
        :y="(drawn ?? box)!.top"
        :width="(drawn ?? box)!.right - (drawn ?? box)!.left"
        :height="(drawn ?? box)!.bottom - (drawn ?? box)!.top"
        rx="6"
      />
      <path class="path" :d="line" />
      <circle v-for="(dot, at) in path" :key="at" class="been" :cx="dot.x" :cy="dot.y" r="7" />
      <g v-if="start">
        <path class="start" :d="`M${start.x} ${start.y - 11}l11 11-11 11-11-11z`" />
        <text class="named" :x="start.x + 17" :y="start.y + 5">you started here</text>
      </g>
      <circle v-if="here && here !== start" class="here" :cx="here.x" :cy="here.y" r="11" />
      <text class="axis" x="16" y="24">{{ words.up }}</text>
      <text class="axis" x="16" :y="height - 12">{{ words.left }}</text>
      <text class="axis" :x="width - 16" :y="height - 12" text-anchor="end">{{ words.right }}</text>
    </svg>
    <button v-if="box" type="button" class="word-button all" @pointerdown.stop @click="box = null">
      {{ dots.length }} in the box · show all
    </button>
  </div>
</template>

<style scoped>
.plot {
  --point: #117f78;
  position: relative;
  min-height: 0;
  border: 1.5px solid var(--rule);
  border-radius: 18px;
  background: var(--card);
  overflow: hidden;
  touch-action: none;
  cursor: crosshair;
  user-select: none;
}
.v-theme--night .plot {
  --point: #4fc0b8;
}
canvas,
.over {
  position: absolute;
  inset: 0;
}
.over {
  pointer-events: none;
}
.path {
  fill: none;
  stroke: var(--act);
  stroke-width: 2;
  stroke-dasharray: 2 5;
  stroke-linecap: round;
}
.been {
  fill: var(--card);
  stroke: var(--act);
  stroke-width: 2;
}
.here {
  fill: var(--act);
  stroke: var(--card);
  stroke-width: 2;
}
.start {
  fill: var(--ink);
}
.named {
  font-size: 15px;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 4;
}
.axis {
  font-size: 14px;
  fill: var(--soft-ink);
}
.box {
  fill: color-mix(in srgb, var(--keep) 22%, transparent);
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 5 4;
}
.all {
  position: absolute;
  top: 10px;
  right: 10px;
}
</style>

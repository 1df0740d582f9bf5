<script setup lang="ts">
/**
 * A strip's values as bars to paint over: drag across to draw, Shift for a straight ramp, double click for plain; arrows
 * and typing for exact values. The end is dragged to give the strip a length of its own.
 */
import { computed, ref, watch } from 'vue'

import type { StripPicture } from '@/api/client'
import { newGesture } from '@/page/gesture'
import { Stroke, type Touch } from '@/hands/valuesAlong'
import { valueOfTyping } from '@/sentence/number'
import type { StripAction } from '@/hands/strips'
import { useHandSettings } from '@/hands/useHandSettings'
import { useDrag } from '@/page/useDrag'

const props = defineProps<{
  strip: StripPicture
  label: string
  ink: string
  /** Values of steps that are hits: their bars are full. Of a strip of its own length, all. */
  hits: readonly number[]
  /** The value that plays now; null while nothing does. */
  now: number | null
}>()
const emit = defineEmits<{
  paint: [values: ReadonlyMap<number, number | null>, gesture: string]
  resize: [length: number, gesture: string]
  act: [action: StripAction]
}>()

const settings = useHandSettings()
const box = ref<HTMLElement>()
/** The place that keys move, and whose value all others can take. */
const cursor = defineModel<number>('cursor', { default: 0 })
const typed = ref<string | null>(null)
/** Between which values a throw would lie. */
const thrown = computed(() => {
  const { low, high, shape } = settings.throwRangeOf(props.strip)
  const [from, to] = [shareOf(low), shareOf(high)]
  return {
    isMiddle: shape === 'middle',
    style: { bottom: `${100 * from}%`, height: `${100 * (to - from)}%` },
  }
})
const hitSet = computed(() => new Set(props.hits))
/** Up to this many values each bar says its own. */
const SAYS = 32
const LONGEST = 128

const range = computed(() => props.strip.high - props.strip.low)
const ground = computed(() => (props.strip.low < 0 ? -props.strip.low / range.value : 0))
const shareOf = (value: number) => (value - props.strip.low) / range.value
const barOf = (value: number) => {
  const [from, to] = [Math.min(shareOf(value), ground.value), Math.max(shareOf(value), ground.value)]
  return { bottom: `${100 * from}%`, height: `max(2px, ${100 * (to - from)}%)` }
}
const isTie = (value: number) => props.strip.name === 'length' && value === 0
const valueText = (value: number) => (isTie(value) ? 'tied' : `${value}`)

function touchOf(event: PointerEvent): Touch {
  const { left, top, width, height } = box.value?.getBoundingClientRect() ?? new DOMRect()
  const place = Math.floor(((event.clientX - left) / width) * props.strip.values.length)
  const share = 1 - (event.clientY - top) / height
  const value = Math.round(props.strip.low + share * range.value) + 0 // -0 is no value
  return [
    Math.min(props.strip.values.length - 1, Math.max(0, place)),
    Math.min(props.strip.high, Math.max(props.strip.low, value)),
  ]
}
const drag = useDrag((event) => {
  const touch = touchOf(event)
  cursor.value = touch[0]
  const stroke = new Stroke(touch)
  const gesture = newGesture(props.label)
  emit('paint', new Map([touch]), gesture)
  return { move: (moved) => emit('paint', stroke.to(touchOf(moved), moved.shiftKey), gesture) }
})

// ---- Keys ----
const CHANGES: Record<string, number> = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }
let keys = ''
const WHOLE: Record<string, StripAction> = {
  'Alt+ArrowLeft': { kind: 'operation', operation: 'earlier' },
  'Alt+ArrowRight': { kind: 'operation', operation: 'later' },
  'Alt+ArrowDown': { kind: 'operation', operation: 'towards the middle' },
  'Alt+ArrowUp': { kind: 'operation', operation: 'away from the middle' },
  'Alt+r': { kind: 'operation', operation: 'reverse' },
  'Ctrl+c': { kind: 'copy' },
  'Ctrl+v': { kind: 'paste' },
}
/** What a key does to all of the strip. */
function wholeAction(event: KeyboardEvent): StripAction | undefined {
  const modifier = event.altKey ? 'Alt+' : event.ctrlKey || event.metaKey ? 'Ctrl+' : ''
  const pressed = `${modifier}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`
  // While the strip has the focus, a throw is the strip's.
  if (pressed === 'Alt+t' || pressed === 't') return { kind: 'throw', ...settings.throwRangeOf(props.strip) }
  if (pressed === 'Alt+a')
    return { kind: 'all', value: props.strip.values[cursor.value] ?? props.strip.plain }
  return WHOLE[pressed]
}
function onKeyDown(event: KeyboardEvent) {
  const whole = wholeAction(event)
  if (whole) {
    event.preventDefault()
    event.stopPropagation()
    emit('act', whole)
    return
  }
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const value = latest.get(cursor.value) ?? props.strip.values[cursor.value] ?? props.strip.plain
  const walk = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  const change = CHANGES[event.key]
  if (walk) goTo(cursor.value + walk)
  else if (change !== undefined) set(value + change)
  else if (event.key === 'Home') goTo(0)
  else if (event.key === 'End') goTo(props.strip.values.length - 1)
  else if (/^[\d-]$/.test(event.key)) typed.value = ((typed.value ?? '') + event.key).slice(0, 4)
  else if (event.key === 'Enter' && typed.value !== null) takeTyped(1)
  else if (event.key === 'Escape' && typed.value !== null) typed.value = null
  else if (event.key === 'Delete' || event.key === 'Backspace') setPlain()
  else return
  event.preventDefault()
  event.stopPropagation()
}
function goTo(place: number) {
  takeTyped()
  const count = props.strip.values.length
  cursor.value = (place + count) % count
  keys = ''
}
function takeTyped(onward = 0) {
  const value = valueOfTyping(typed.value, 0)
  typed.value = null
  if (value === null) return
  keys = ''
  set(value)
  if (onward) goTo(cursor.value + onward)
}
function set(value: number | null) {
  keys ||= newGesture(props.label)
  const clamped = value === null ? null : Math.min(props.strip.high, Math.max(props.strip.low, value))
  if (clamped === null) latest.delete(cursor.value)
  else latest.set(cursor.value, clamped)
  emit('paint', new Map([[cursor.value, clamped]]), keys)
}
/** Values that keys have set and that the engine's picture does not show yet: the next key goes on from them. */
const latest = new Map<number, number>()
watch(
  () => props.strip,
  () => latest.clear(),
)
function setPlain() {
  typed.value = null
  keys = ''
  set(null)
}

// ---- The end ----
const endDrag = useDrag(({ clientX }) => {
  const was = props.strip.values.length
  const width = (box.value?.getBoundingClientRect().width ?? 1) / was
  const gesture = newGesture('length')
  return { move: (moved) => resize(was + Math.round((moved.clientX - clientX) / width), gesture) }
})
function onEndKey(event: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  resize(props.strip.values.length + by, newGesture('length'))
}
function resize(length: number, gesture: string) {
  const clamped = Math.min(LONGEST, Math.max(1, length))
  if (clamped !== props.strip.values.length) emit('resize', clamped, gesture)
}
</script>

<template>
  <div class="painted">
    <div
      ref="box"
      class="bars inked"
      :class="{ dense: strip.values.length > 48 }"
      role="slider"
      tabindex="0"
      data-owns-keys
      :aria-label="label"
      :aria-valuenow="strip.values[cursor]"
      :aria-valuemin="strip.low"
      :aria-valuemax="strip.high"
      :aria-valuetext="`${strip.is_free ? 'value' : 'step'} ${cursor + 1}: ${valueText(strip.values[cursor] ?? strip.plain)}${isTie(strip.values[cursor] ?? 1) ? '' : strip.unit}`"
      :style="{ color: ink }"
      v-bind="drag.on"
      @focus="keys = ''"
      @blur="takeTyped()"
      @dblclick="setPlain"
      @keydown="onKeyDown"
    >
      <div
        v-for="(value, place) in strip.values"
        :key="place"
        class="bar"
        :class="{
          hit: strip.is_free || hitSet.has(place),
          own: strip.own[place],
          cursor: place === cursor,
          now: place === now,
        }"
      >
        <i :style="barOf(value)" />
        <span v-if="typed !== null && place === cursor" class="typed">{{ typed }}</span>
        <span v-else-if="strip.values.length <= SAYS && strip.own[place]">{{ valueText(value) }}</span>
      </div>
      <div class="thrown" :class="{ middle: thrown.isMiddle }" :style="thrown.style" />
    </div>
    <div
      v-tip="'Drag: a length of the strip’s own, which then drifts over the lane’s steps'"
      class="end"
      role="slider"
      tabindex="0"
      data-owns-keys
      :aria-label="`${label}: length`"
      :aria-valuenow="strip.values.length"
      aria-valuemin="1"
      :aria-valuemax="LONGEST"
      v-bind="endDrag.on"
      @keydown="onEndKey"
    >
      {{ strip.values.length }}
    </div>
  </div>
</template>

<style scoped>
.painted {
  display: flex;
  height: 100%;
}
.bars {
  position: relative;
  flex: 1;
  min-width: 0;
  display: flex;
  gap: 3px;
  cursor: crosshair;
  touch-action: none;
  user-select: none;
}
.thrown {
  position: absolute;
  left: -7px;
  width: 4px;
  border-radius: 2px;
  background: var(--keep);
  pointer-events: none;
}
.thrown.middle {
  background: linear-gradient(transparent, var(--keep), transparent);
}
.bars.dense {
  gap: 1px;
}
.bar {
  position: relative;
  flex: 1;
  min-width: 1px;
  border-radius: 4px;
  background: color-mix(in srgb, currentColor 8%, transparent);
  overflow: hidden;
}
.bar i {
  position: absolute;
  left: 0;
  right: 0;
  background: currentColor;
  opacity: 0.13;
}
.bar.own i {
  opacity: 0.32;
}
.bar.hit i {
  opacity: 0.42;
}
.bar.hit.own i {
  opacity: 0.9;
}
.bar.now {
  box-shadow: inset 0 -4px 0 var(--act);
}
.bar span {
  position: absolute;
  inset: 3px 0 auto;
  text-align: center;
  font: 650 13px/1.1 var(--text-font);
  color: var(--ink);
  text-shadow:
    0 0 3px var(--card),
    0 0 3px var(--card),
    0 0 2px var(--card);
}
.bar .typed {
  background: var(--keep);
  color: #2b2440;
  text-shadow: none;
}
.bars:focus-visible {
  outline-offset: 1px;
}
.bars:focus-visible .bar.cursor {
  box-shadow: inset 0 0 0 2px var(--act);
}
.end {
  flex: none;
  width: 30px;
  margin-left: 4px;
  padding-left: 7px;
  border-left: 3px solid var(--ink);
  border-radius: 2px;
  font: 650 14px/1 var(--name-font);
  color: var(--soft-ink);
  display: grid;
  align-content: center;
  cursor: ew-resize;
  touch-action: none;
  user-select: none;
}
.end:hover {
  color: var(--ink);
}
</style>

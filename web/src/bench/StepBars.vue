<script setup lang="ts">
/** A value for each step, as bars to paint over: drag across to draw, arrows for exact values, Delete for plain. */
import { computed, ref } from 'vue'

import { newGesture } from '@/composables/gesture'

const props = defineProps<{
  values: readonly number[]
  high: number
  plain: number
  label: string
  ink: string
  /** Steps that are hits: their bars are full. */
  hits: readonly number[]
}>()
const emit = defineEmits<{ paint: [values: ReadonlyMap<number, number>, gesture: string] }>()

const box = ref<HTMLElement>()
const cursor = ref(0)
const hitSet = computed(() => new Set(props.hits))
/** Up to this many steps each bar says its value. */
const SAYS = 24

let stroke: { values: Map<number, number>; gesture: string; last: number } | null = null

function at(event: PointerEvent): [number, number] {
  const { left, top, width, height } = box.value?.getBoundingClientRect() ?? new DOMRect()
  const step = Math.floor(((event.clientX - left) / width) * props.values.length)
  const share = 1 - (event.clientY - top) / height
  const value = Math.round((share * props.high) / 5) * 5
  return [
    Math.min(props.values.length - 1, Math.max(0, step)),
    Math.min(props.high, Math.max(0, event.shiftKey ? Math.round(share * props.high) : value)),
  ]
}
function onPointerDown(event: PointerEvent) {
  if (event.button !== 0) return
  box.value?.setPointerCapture(event.pointerId)
  const [step, value] = at(event)
  cursor.value = step
  stroke = { values: new Map([[step, value]]), gesture: newGesture(props.label), last: step }
  emit('paint', new Map(stroke.values), stroke.gesture)
}
function onPointerMove(event: PointerEvent) {
  if (!stroke) return
  const [step, value] = at(event)
  // A fast hand leaves no gap.
  const by = Math.sign(step - stroke.last) || 1
  for (let passed = stroke.last; passed !== step + by; passed += by) stroke.values.set(passed, value)
  stroke.last = step
  emit('paint', new Map(stroke.values), stroke.gesture)
}
const onPointerUp = () => (stroke = null)

const CHANGES: Record<string, number> = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }
let keys = ''
function onKeyDown(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const now = props.values[cursor.value] ?? props.plain
  const walk = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  const change = CHANGES[event.key]
  if (walk) {
    cursor.value = (cursor.value + walk + props.values.length) % props.values.length
    keys = ''
  } else if (change !== undefined) set(now + change)
  else if (event.key === 'Delete' || event.key === 'Backspace') set(props.plain)
  else return
  event.preventDefault()
  event.stopPropagation()
}
function set(value: number) {
  keys ||= newGesture(props.label)
  emit('paint', new Map([[cursor.value, Math.min(props.high, Math.max(0, value))]]), keys)
}
</script>

<template>
  <div
    ref="box"
    class="bars inked"
    role="slider"
    tabindex="0"
    data-owns-keys
    :aria-label="label"
    :aria-valuenow="values[cursor]"
    aria-valuemin="0"
    :aria-valuemax="high"
    :aria-valuetext="`step ${cursor + 1}: ${values[cursor]} %`"
    :style="{ color: ink }"
    @focus="keys = ''"
    @pointerdown="onPointerDown"
    @pointermove="onPointerMove"
    @pointerup="onPointerUp"
    @pointercancel="onPointerUp"
    @dblclick="set(plain)"
    @keydown="onKeyDown"
  >
    <div
      v-for="(value, step) in values"
      :key="step"
      class="bar"
      :class="{ hit: hitSet.has(step), cursor: step === cursor }"
    >
      <i :style="{ height: `${(100 * value) / high}%` }" />
      <span v-if="values.length <= SAYS && value !== plain">{{ value }}</span>
    </div>
    <v-tooltip activator="parent" location="top"
      >How often each step sounds. Drag across to paint, arrows for exact values, Delete for 100 %.</v-tooltip
    >
  </div>
</template>

<style scoped>
.bars {
  display: flex;
  gap: 2px;
  height: 44px;
  cursor: crosshair;
  touch-action: none;
  user-select: none;
}
.bar {
  position: relative;
  flex: 1;
  min-width: 1px;
  border-radius: 3px;
  background: color-mix(in srgb, currentColor 9%, transparent);
  overflow: hidden;
}
.bar i {
  position: absolute;
  inset: auto 0 0;
  background: currentColor;
  opacity: 0.25;
}
.bar.hit i {
  opacity: 0.85;
}
.bar span {
  position: absolute;
  inset: 2px 0 auto;
  text-align: center;
  font: 600 12px/1 var(--text-font);
  color: var(--ink);
}
.bars:focus-visible .bar.cursor {
  box-shadow: inset 0 0 0 2px var(--act);
}
</style>

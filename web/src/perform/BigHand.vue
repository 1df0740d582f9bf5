<script setup lang="ts">
/** One control, large: a thread with a bead on it that is dragged along, turned by the wheel, stepped by the arrows. */
import { computed, ref } from 'vue'

import { newGesture } from '@/page/gesture'
import { useDrag } from '@/page/useDrag'
import type { ControlHandle } from './controlHandles'

const props = defineProps<{
  hold: ControlHandle
  /** Where the control is now, 0-1, while a movement moves it; null: where the document has it. */
  moving: number | null
  /** Where the knob stands that is to move it, 0-1, while it waits; null: it does not. */
  knob?: number | null
  says: string
}>()
const emit = defineEmits<{ move: [value: number, gesture: string]; menu: []; cancel: [gesture: string] }>()

const share = computed(() => {
  const { value, low, high } = props.hold
  return props.moving ?? (value === null || high === low ? 0 : (value - low) / (high - low))
})
const element = ref<HTMLElement>()
let gesture = ''
const begin = () => (gesture = newGesture(`${props.hold.name}`))
const within = (value: number) => Math.min(props.hold.high, Math.max(props.hold.low, Math.round(value)))
function moveTo(value: number) {
  const wanted = within(value)
  if (wanted !== props.hold.value) emit('move', wanted, gesture)
}
const drag = useDrag((event) => {
  if (props.hold.value === null) return null
  event.preventDefault()
  element.value?.focus({ preventScroll: true })
  begin()
  const box = element.value?.getBoundingClientRect()
  const { low, high, value } = props.hold
  const from = event.clientX
  let moves = false
  return {
    move({ clientX, shiftKey }) {
      moves ||= Math.abs(clientX - from) > 3
      if (!box || !moves) return
      const by = ((clientX - from) / box.width) * (high - low) * (shiftKey ? 0.15 : 1.1)
      moveTo((value ?? low) + by)
    },
    end: () => begin(),
  }
})
function step(by: number) {
  if (props.hold.value === null) return
  moveTo(props.hold.value + by)
}
const onWheel = (event: WheelEvent) => {
  begin()
  step(
    -Math.sign(event.deltaY) *
      (event.shiftKey ? 1 : Math.max(1, Math.round((props.hold.high - props.hold.low) / 60))),
  )
}
function onKey(event: KeyboardEvent) {
  const { low, high } = props.hold
  const large = Math.max(1, Math.round((high - low) / 10))
  const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: large, PageDown: -large }[
    event.key
  ]
  if (event.key === 'Escape') emit('cancel', gesture)
  if (by === undefined && event.key !== 'Home' && event.key !== 'End') return
  event.preventDefault()
  event.stopPropagation()
  if (!event.repeat) begin()
  if (by !== undefined) step(by)
  else moveTo(event.key === 'Home' ? low : high)
}
</script>

<template>
  <div class="big" :class="{ gone: hold.value === null }" :style="{ '--ink-of-hand': hold.ink }">
    <div class="said">
      <span class="named lane">{{ hold.lane }}</span>
      <span class="control">{{ hold.name }}</span>
      <span class="named value" data-test="value">{{ says }}</span>
      <button
        v-tip="'Another control here, or none'"
        type="button"
        class="quiet-button"
        :aria-label="`Change ${hold.lane} ${hold.name}`"
        @click="emit('menu')"
      >
        change<slot />
      </button>
    </div>
    <div
      ref="element"
      class="thread"
      role="slider"
      tabindex="0"
      data-owns-keys
      :aria-label="`${hold.lane}: ${hold.name}`"
      :aria-valuemin="hold.low"
      :aria-valuemax="hold.high"
      :aria-valuenow="hold.value ?? hold.low"
      :aria-valuetext="says"
      v-bind="drag.on"
      @wheel.prevent="onWheel"
      @keydown="onKey"
    >
      <span class="line" />
      <span class="way" :style="{ width: `${share * 100}%` }" />
      <span
        v-if="knob !== null && knob !== undefined"
        v-tip="'Your knob stands here: turn it to the bead, then it has it'"
        class="knob"
        :style="{ left: `${knob * 100}%` }"
      />
      <span class="bead" :class="{ moving: moving !== null }" :style="{ left: `${share * 100}%` }" />
    </div>
  </div>
</template>

<style scoped>
.knob {
  position: absolute;
  top: 4px;
  bottom: 4px;
  border-left: 3px dashed var(--act-text);
}
.big {
  display: grid;
  padding: 4px 20px 2px;
  background: var(--card);
  border: 1.5px solid var(--rule);
  border-left: 8px solid var(--ink-of-hand);
  border-radius: 12px;
}
.big.gone {
  border-style: dashed dashed dashed solid;
  background: none;
  color: var(--soft-ink);
}
.said {
  display: flex;
  align-items: baseline;
  gap: 10px;
}
.lane {
  font-size: 20px;
}
.control {
  font-size: 16px;
  color: var(--soft-ink);
}
.value {
  margin-left: auto;
  font-size: 26px;
  font-variant-numeric: tabular-nums;
}
.thread {
  position: relative;
  height: 44px;
  margin: 0 14px;
  touch-action: none;
  cursor: ew-resize;
  border-radius: 12px;
}
.thread:focus-visible {
  outline: 3px solid var(--act);
  outline-offset: 4px;
}
.line,
.way {
  position: absolute;
  left: 0;
  top: 20px;
  height: 4px;
  border-radius: 2px;
  background: color-mix(in srgb, var(--ink-of-hand) 28%, transparent);
}
.line {
  right: 0;
}
.way {
  background: var(--ink-of-hand);
}
.bead {
  position: absolute;
  top: 4px;
  width: 36px;
  height: 36px;
  margin-left: -18px;
  border-radius: 50%;
  background: var(--ink-of-hand);
}
.bead.moving {
  box-shadow:
    0 0 0 4px var(--card),
    0 0 0 7px var(--act);
}
</style>

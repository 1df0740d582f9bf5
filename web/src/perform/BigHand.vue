<script setup lang="ts">
/** One control, large: a thread with a bead on it that is dragged along, turned by the wheel, stepped by the arrows. */
import { computed } from 'vue'

import { useSlider } from '@/page/useSlider'
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
const slider = useSlider({
  name: props.hold.name,
  value: () => props.hold.value,
  min: () => props.hold.low,
  max: () => props.hold.high,
  unitsOf: ({ right, width, isSlow }) =>
    (right / width) * (props.hold.high - props.hold.low) * (isSlow ? 0.15 : 1.1),
  move: (value, gesture) => emit('move', value, gesture),
  cancel: (gesture) => emit('cancel', gesture),
})
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
      class="thread"
      role="slider"
      tabindex="0"
      data-owns-keys
      :aria-label="`${hold.lane}: ${hold.name}`"
      :aria-valuemin="hold.low"
      :aria-valuemax="hold.high"
      :aria-valuenow="hold.value ?? hold.low"
      :aria-valuetext="says"
      v-bind="slider.on"
      @wheel.prevent="slider.onWheel"
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

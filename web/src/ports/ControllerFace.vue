<script setup lang="ts">
/** The simulated controller: keys, pads, knobs and a transport under the hand. */
import { useEventListener } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'

import { Piece } from '@/api/limits.json'
import { melody } from '@/engine/melody'
import { useKeysThatFit } from '@/keyboard/useKeysThatFit'
import { useSlider } from '@/page/useSlider'
import { useOffer } from '@/page/useLists'
import { PADS_SHOWN, PHRASE, useSimulatedController } from '@/playing/simulatedController'

const FIRST_KEY = 48
const KEYS = 25
const controller = useSimulatedController()
const all = useOffer(
  () => ['keyboard', null, null],
  () => melody.keyboard(null),
)
const keys = useKeysThatFit(useTemplateRef<HTMLElement>('board'), () =>
  (all.value ?? []).slice(FIRST_KEY, FIRST_KEY + KEYS),
)

const held = ref<number | null>(null)
function press(pitch: number) {
  if (held.value !== null && held.value !== pitch) controller.key(held.value, false)
  held.value = pitch
  controller.key(pitch, true)
}
function release() {
  if (held.value !== null) controller.key(held.value, false)
  held.value = null
}
useEventListener(window, ['pointerup', 'pointercancel', 'blur'], () => {
  release()
  controller.padsDown.forEach((place) => controller.pad(place, false))
})
const slide = (pitch: number, event: PointerEvent) =>
  event.buttons === 1 && held.value !== null && press(pitch)

function keyOf(event: KeyboardEvent, act: (isDown: boolean) => void) {
  if (event.key !== ' ' && event.key !== 'Enter') return
  event.preventDefault()
  event.stopPropagation()
  if (!event.repeat) act(event.type === 'keydown')
}

const knobs = controller.knobs.map((_, place) =>
  useSlider({
    name: 'knob',
    value: () => controller.knobs[place] ?? 0,
    min: () => 0,
    max: () => 127,
    unitsOf: ({ up }) => up * 0.8,
    move: (value) => controller.turn(place, value),
  }),
)
</script>

<template>
  <section class="face" aria-label="Simulated controller">
    <header>
      <h2>Simulated controller</h2>
      <span>It sends what a real one would: keys, pads, knobs, a clock.</span>
    </header>
    <div class="knobs">
      <div
        v-for="(knob, place) in knobs"
        :key="place"
        class="knob"
        role="slider"
        tabindex="0"
        data-owns-keys
        :aria-label="`Knob ${place + 1}`"
        aria-valuemin="0"
        aria-valuemax="127"
        :aria-valuenow="controller.knobs[place]"
        v-bind="knob.on"
        @wheel.prevent="knob.onWheel"
      >
        <span class="thread"
          ><span class="bead" :style="{ left: `${(100 * (controller.knobs[place] ?? 0)) / 127}%` }"
        /></span>
        <small>{{ place + 1 }} · {{ controller.knobs[place] }}</small>
      </div>
    </div>
    <div class="pads">
      <button
        v-for="place in PADS_SHOWN"
        :key="place"
        type="button"
        class="pad"
        :aria-pressed="controller.padsDown.has(place - 1)"
        :aria-label="`Pad ${place}`"
        @pointerdown.prevent="controller.pad(place - 1, true)"
        @keydown="keyOf($event, (isDown) => controller.pad(place - 1, isDown))"
        @keyup="keyOf($event, (isDown) => controller.pad(place - 1, isDown))"
      >
        {{ place }}
      </button>
    </div>
    <div class="transport">
      <button
        type="button"
        class="word-button"
        :aria-pressed="controller.isRunning"
        @click="controller.start"
      >
        start
      </button>
      <button type="button" class="word-button" @click="controller.goOn">continue</button>
      <button type="button" class="word-button" @click="controller.stop">stop</button>
      <button
        v-tip="'A phrase, sent by itself: keys, a pad, a knob'"
        type="button"
        class="word-button"
        @click="controller.play(PHRASE)"
      >
        a phrase
      </button>
      <label>
        clock
        <input
          v-shown="controller.tempo"
          class="small-field"
          type="number"
          v-bind="Piece.tempo"
          aria-label="Tempo of the controller’s clock"
          @change="
            controller.setTempo(
              Math.min(
                Piece.tempo.max,
                Math.max(Piece.tempo.min, Number(($event.target as HTMLInputElement).value) || 120),
              ),
            )
          "
        />
      </label>
    </div>
    <div ref="board" class="board">
      <button
        v-for="key in keys"
        :key="key.pitch"
        type="button"
        class="key"
        :class="{ black: key.is_black }"
        :aria-pressed="controller.down.has(key.pitch)"
        :aria-label="`Key ${key.name}`"
        @pointerdown.prevent="press(key.pitch)"
        @pointerenter="slide(key.pitch, $event)"
        @keydown="keyOf($event, (isDown) => controller.key(key.pitch, isDown))"
        @keyup="keyOf($event, (isDown) => controller.key(key.pitch, isDown))"
      >
        <small v-if="!key.is_black && key.pitch % 12 === 0">{{ key.name }}</small>
      </button>
    </div>
  </section>
</template>

<style scoped src="../keyboard/keys.css"></style>
<style scoped>
.face {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px 18px;
  padding: 10px 14px;
  background: var(--card);
  border: 1.5px solid var(--ink);
  border-radius: 12px;
  user-select: none;
}
header {
  grid-column: 1 / -1;
  display: flex;
  align-items: baseline;
  gap: 12px;
  color: var(--soft-ink);
}
h2 {
  font-size: 19px;
  color: var(--ink);
}
.knobs {
  display: flex;
  gap: 6px;
}
.knob {
  display: grid;
  justify-items: center;
  min-width: 56px;
  cursor: ns-resize;
  touch-action: none;
  border-radius: 10px;
}
.knob small {
  font-size: 13px;
  color: var(--soft-ink);
}
.thread {
  position: relative;
  width: 44px;
  height: 28px;
}
.thread::before {
  content: '';
  position: absolute;
  inset: 13px 0 auto;
  border-top: 2px solid var(--soft-ink);
}
.bead {
  position: absolute;
  top: 5px;
  width: 18px;
  height: 18px;
  margin-left: -9px;
  border-radius: 9px;
  background: var(--ink);
}
.pads {
  display: grid;
  grid-template-columns: repeat(4, 50px);
  gap: 5px;
}
.pad {
  height: 34px;
  border-radius: 17px;
  border: 2px solid var(--ink);
  font: 650 15px/1 var(--name-font);
  cursor: pointer;
  touch-action: none;
}
.pad[aria-pressed='true'] {
  background: var(--act-text);
  border-color: var(--act-text);
  color: #fff;
}
.board {
  grid-column: 1;
  height: 56px;
}
.key {
  display: grid;
  align-content: end;
  justify-items: center;
}
.key.black {
  height: 60%;
  border-color: var(--ink);
  background: var(--ink);
}
.key[aria-pressed='true'] {
  background: var(--act);
}
.key small {
  font-size: 13px;
  color: var(--soft-ink);
}
.transport {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
  max-width: 216px;
  grid-row: 3;
  grid-column: 2;
}
@media (max-width: 1150px) {
  .face {
    grid-template-columns: minmax(0, 1fr);
  }
  .knobs {
    display: grid;
    grid-template-columns: repeat(8, minmax(0, 1fr));
  }
  .knob {
    min-width: 0;
  }
  .pads {
    grid-template-columns: repeat(8, minmax(0, 1fr));
  }
  .transport {
    grid-row: auto;
    grid-column: 1;
    max-width: none;
  }
}
</style>

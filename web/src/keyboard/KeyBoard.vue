<script setup lang="ts">
/** The keyboard, and pads for the notes of the scale: all can be pressed, and show what is held. */
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { printedOn, SHOWN } from './keyboard'
import type { useKeys } from './useKeys'

const props = defineProps<{
  keys: ReturnType<typeof useKeys>
  /** All keys, by their pitches, as the scale spells and marks them. */
  all: readonly Schemas['Key'][]
  held: readonly number[]
  /** Whether keys strike the voices of the kit: those that have none are marked. */
  strikesKit: boolean
  /** What the kit's voices are called, by their ids. */
  voices: ReadonlyMap<string, string>
}>()
const { velocity, down } = props.keys

const first = computed(() => props.keys.firstKey.value)
const shown = computed(() => props.all.slice(first.value, first.value + SHOWN))
const isVoiceless = ({ voice }: Schemas['Key']) => props.strikesKit && !voice
/** Two octaves of the scale, from the first of its roots on the keyboard on; where keys strike the kit, its voices. */
const pads = computed(() => {
  if (props.strikesKit)
    return props.all.flatMap((key) =>
      key.voice ? { ...key, letter: props.voices.get(key.voice) ?? key.name, is_root: false } : [],
    )
  const above = props.all.slice(first.value).filter(({ in_scale }) => in_scale)
  const roots = above.flatMap(({ is_root }, at) => (is_root ? [at] : []))
  return above.slice(roots[0] ?? 0, (roots[2] ?? above.length) + 1)
})

/**
 * What strikes a key or a pad: a pointer, the lower the harder, or Enter and Space where it has the focus, each for as long
 * as it is down.
 */
function struckBy(pitch: number) {
  const isKey = ({ key }: KeyboardEvent) => key === 'Enter' || key === ' '
  return {
    onPointerdown(event: PointerEvent) {
      event.preventDefault()
      if (!(event.currentTarget instanceof Element)) return
      event.currentTarget.setPointerCapture(event.pointerId)
      const { top, height } = event.currentTarget.getBoundingClientRect()
      const share = Math.min(1, Math.max(0, (event.clientY - top) / height))
      props.keys.press(pitch, Math.round(40 + 80 * share), event)
    },
    onPointerup: (event: PointerEvent) => props.keys.release(pitch, event),
    onPointercancel: () => props.keys.release(pitch),
    onKeydown(event: KeyboardEvent) {
      if (!isKey(event)) return
      event.preventDefault()
      event.stopPropagation()
      if (!event.repeat) props.keys.press(pitch, velocity.value, event)
    },
    onKeyup: (event: KeyboardEvent) => isKey(event) && props.keys.release(pitch, event),
    onBlur: () => props.keys.release(pitch),
  }
}
</script>

<template>
  <div class="middle">
    <div class="board" role="group" aria-label="Keyboard">
      <button
        v-for="key in shown"
        :key="key.pitch"
        v-tip="isVoiceless(key) ? `The kit has no voice on ${key.name}` : ''"
        type="button"
        class="key"
        :class="{
          black: key.is_black,
          down: down.has(key.pitch),
          held: held.includes(key.pitch),
          out: !key.in_scale && !strikesKit,
          voiceless: isVoiceless(key),
        }"
        :aria-label="isVoiceless(key) ? `${key.name}, no voice` : key.name"
        :aria-pressed="held.includes(key.pitch)"
        tabindex="-1"
        v-bind="struckBy(key.pitch)"
      >
        <span class="note">{{
          isVoiceless(key) ? '–' : held.includes(key.pitch) || (key.is_root && !strikesKit) ? key.letter : ''
        }}</span>
        <span class="printed">{{ printedOn(key.pitch - first) }}</span>
      </button>
    </div>
    <div
      class="pads"
      :class="{ kit: strikesKit }"
      role="group"
      :aria-label="strikesKit ? 'Pads of the kit' : 'Pads of the scale'"
    >
      <button
        v-for="{ pitch, name, letter, is_root } in pads"
        :key="pitch"
        type="button"
        class="pad"
        :class="{ down: down.has(pitch), held: held.includes(pitch), root: is_root }"
        :aria-label="`Pad ${name}`"
        v-bind="struckBy(pitch)"
      >
        {{ letter }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.middle {
  display: grid;
  grid-template-rows: 1fr 44px;
  gap: 8px;
  min-width: 0;
}
.board {
  display: flex;
  gap: 3px;
  min-width: 0;
  touch-action: none;
}
.key {
  flex: 1 1 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  align-items: center;
  gap: 4px;
  padding-bottom: 9px;
  border-radius: 6px 6px 13px 13px;
  background: var(--paper);
  border: 1.5px solid var(--rule);
  color: var(--soft-ink);
  cursor: pointer;
  touch-action: none;
}
.key.voiceless {
  border-style: dashed;
  opacity: 0.6;
}
.key.black {
  align-self: flex-start;
  height: 66%;
  background: color-mix(in srgb, var(--ink) 82%, var(--paper));
  border-color: transparent;
  color: var(--paper);
}
/* What the scale has not is thin: it can be played, but it leaves the scale. */
.key.out {
  opacity: 0.5;
}
.key .note {
  font: 650 15px/1 var(--name-font);
}
.key .printed {
  font-size: 12px;
}
.key.held {
  background: var(--lane-ink);
  border-color: var(--lane-ink);
  color: #fff;
  opacity: 1;
}
.key.down,
.pad.down {
  transform: translateY(2px);
}
.pads {
  display: flex;
  gap: 4px;
}
.pad {
  flex: 1 1 0;
  min-width: 0;
  border-radius: 22px;
  border: 1.5px solid var(--rule);
  font: 650 15px/1 var(--name-font);
  color: var(--ink);
  cursor: pointer;
  touch-action: none;
}
.pad.root {
  border-color: var(--ink);
}
.pad.held {
  background: var(--lane-ink);
  border-color: var(--lane-ink);
  color: #fff;
}
@media (prefers-reduced-motion: reduce) {
  .key.down,
  .pad.down {
    transform: none;
  }
}
.kit .pad {
  min-width: 0;
  padding: 0 3px;
  border-radius: 12px;
  font-size: 13px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

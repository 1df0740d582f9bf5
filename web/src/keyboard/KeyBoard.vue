<script setup lang="ts">
/** The keyboard, and pads for the notes of the scale: all can be pressed, and show what is held. */
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { printedOn } from './keyboard'
import type { useKeys } from './useKeys'

const props = defineProps<{
  keys: ReturnType<typeof useKeys>
  /** All keys, by their pitches, as the scale spells and marks them; and those that are on show. */
  all: readonly Schemas['Key'][]
  shown: readonly Schemas['Key'][]
  held: readonly number[]
  /** Whether keys strike the voices of the kit: those that have none are marked. */
  strikesKit: boolean
  /** What the kit's voices are called, by their ids. */
  voices: ReadonlyMap<string, string>
}>()
const { velocity, down } = props.keys

const first = computed(() => props.keys.firstKey.value)
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
        :aria-pressed="held.includes(key.pitch)"
        tabindex="-1"
        v-bind="struckBy(key.pitch)"
      >
        <span class="visually-hidden">{{ isVoiceless(key) ? `${key.name}, no voice` : key.name }}</span>
        <span class="note" aria-hidden="true">{{
          isVoiceless(key) ? '–' : held.includes(key.pitch) || (key.is_root && !strikesKit) ? key.letter : ''
        }}</span>
        <span class="printed" aria-hidden="true">{{ printedOn(key.pitch - first) }}</span>
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
        :aria-label="strikesKit ? `Pad ${name}, ${letter}` : `Pad ${name}`"
        v-bind="struckBy(pitch)"
      >
        {{ letter }}
      </button>
    </div>
  </div>
</template>

<style scoped src="./keys.css"></style>
<style scoped>
.middle {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: minmax(0, 1fr) auto;
  gap: 8px;
  min-width: 0;
}
.board {
  touch-action: none;
}
.key {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  align-items: center;
  gap: 4px;
  padding-bottom: 9px;
  border-radius: 6px 6px 13px 13px;
  color: var(--soft-ink);
}
.key.black {
  align-self: flex-start;
  height: 66%;
  background: color-mix(in srgb, var(--ink) 82%, var(--paper));
  border-color: transparent;
  color: var(--paper);
}
/* What the scale has not is faint: it can be played, but it leaves the scale. So is what the kit has no voice for. */
.key.voiceless {
  border-style: dashed;
}
.key:is(.out, .voiceless) {
  background: color-mix(in srgb, var(--paper) 30%, var(--card));
}
.key.black:is(.out, .voiceless) {
  background: color-mix(in srgb, var(--ink) 66%, var(--paper));
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
}
.key.down,
.pad.down {
  transform: translateY(2px);
}
.pads {
  display: flex;
  gap: 2px;
}
.pad {
  flex: 1 1 0;
  min-width: 0;
  height: 44px;
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
.pads.kit {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(54px, 1fr));
  max-height: 74px;
  overflow-y: auto;
}
.kit .pad {
  height: 36px;
  padding: 0 3px;
  border-radius: 12px;
  font-size: 13px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

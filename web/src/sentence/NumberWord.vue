<script setup lang="ts">
/** A number in a sentence: drag it up and down, turn the wheel, step it with the arrows, or type over it. */
import { computed, ref, watch } from 'vue'

import type { Word } from '@/api/client'
import { newGesture } from '@/page/gesture'
import { useDrag } from '@/page/useDrag'
import { useTabStop } from '@/page/tabStop'
import { amountOfDigits, plus, valueAfterDrag, valueOfTyping, within, type Amount } from './number'

const props = defineProps<{ word: Word; owner: string; explains: string; isRed?: boolean }>()
/** `gesture` is the same for all steps of one movement of the hand. */
const emit = defineEmits<{
  /** A number of kind "digits" moves as its digits. */
  move: [value: number | string, gesture: string, isTyped: boolean]
  cancel: [gesture: string]
  plain: []
}>()

const element = ref<HTMLElement>()
const stop = useTabStop()
const typed = ref<string | null>(null)
const label = computed(() => `${props.owner}: ${props.word.name}`)
let gesture = ''

const isDigits = computed(() => props.word.kind === 'digits')
const now = computed<Amount>(() => (isDigits.value ? BigInt(props.word.digits) : props.word.value))
const low = computed<Amount>(() => (isDigits.value ? 0n : props.word.low))
const high = computed<Amount>(() => (isDigits.value ? BigInt(props.word.last_digits) : props.word.high))

function begin() {
  gesture = newGesture(label.value)
}

/** What was asked for last, until the word says it: the engine's answer may be a moment behind the hand. */
let asked: Amount | null = null
watch(now, () => (asked = null))
const latest = () => asked ?? now.value

function moveTo(wanted: Amount, isTyped = false) {
  const value = within(wanted, low.value, high.value)
  if (value === latest()) return
  asked = value
  emit('move', typeof value === 'bigint' ? String(value) : value, gesture, isTyped)
}

const drag = useDrag((event) => {
  event.preventDefault()
  element.value?.focus({ preventScroll: true })
  begin()
  const [from, y] = [latest(), event.clientY]
  let moves = false
  return {
    move({ clientY, shiftKey }) {
      const up = y - clientY
      moves ||= Math.abs(up) > 2
      if (!moves) return
      typed.value = null
      moveTo(valueAfterDrag(from, up, Number(high.value) - Number(low.value), shiftKey))
    },
    end: () => moves && begin(), // a drag is one moment, what follows is another
  }
})

function onWheel(event: WheelEvent) {
  if (document.activeElement !== element.value) return
  event.preventDefault()
  moveTo(plus(latest(), -Math.sign(event.deltaY)))
}

const steps: Record<string, number> = {
  ArrowUp: 1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowLeft: -1,
  PageUp: 10,
  PageDown: -10,
}

function onKeyDown(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const step = steps[event.key]
  if (step !== undefined) moveTo(plus(latest(), step))
  else if (event.key === 'Home') moveTo(low.value)
  else if (event.key === 'End') moveTo(high.value)
  else if (/^[\d.,-]$/.test(event.key))
    typed.value = ((typed.value ?? '') + event.key).slice(0, isDigits.value ? 40 : 9)
  else if (event.key === 'Backspace' && typed.value !== null) typed.value = typed.value.slice(0, -1)
  else if (event.key === 'Delete' || event.key === 'Backspace') emit('plain')
  else if (event.key === 'Enter' && typed.value !== null) takeTyped()
  else if (event.key === 'Escape') {
    if (typed.value !== null) typed.value = null
    else {
      // Only what is still being changed is given back: a finished choice is undone by undoing it.
      if (drag.isHeld() || document.activeElement === element.value) emit('cancel', gesture)
      asked = null
      drag.drop()
      element.value?.blur()
    }
  } else return
  event.preventDefault()
  event.stopPropagation()
}

function takeTyped() {
  const value = isDigits.value ? amountOfDigits(typed.value) : valueOfTyping(typed.value, props.word.decimals)
  typed.value = null
  // People see it counted from 1 where the document counts from 0, and without a minus that a word says.
  const { counted_from, negated } = props.word
  if (value !== null)
    moveTo(typeof value === 'number' ? (negated ? -value : value - counted_from) : value, true)
  begin() // what is typed next is a change of its own
}
</script>

<template>
  <span
    ref="element"
    v-tip="
      `${word.name}: ${explains}\nDrag up or down, turn the wheel, use the arrow keys, or type. Delete makes it plain, Escape takes it back.`
    "
    class="number"
    :class="{ red: isRed, typing: typed !== null }"
    role="spinbutton"
    :data-low="word.low"
    :data-high="word.high"
    :tabindex="stop"
    data-owns-keys
    :aria-label="label"
    :aria-valuenow="isDigits ? undefined : word.value + word.counted_from"
    :aria-valuetext="word.text"
    :aria-valuemin="isDigits ? undefined : word.low + word.counted_from"
    :aria-valuemax="isDigits ? undefined : word.high + word.counted_from"
    :data-field="word.field"
    :data-name="word.name"
    v-bind="drag.on"
    @focus="begin"
    @blur="takeTyped"
    @wheel="onWheel"
    @keydown="onKeyDown"
    >{{ typed ?? word.text }}</span
  >
</template>

<style scoped>
.number {
  display: inline-block;
  padding: 4px 2px 1px;
  margin: -4px -1px -1px;
  text-align: center;
  font-weight: 700;
  color: inherit;
  border-bottom: 1.5px dotted currentColor;
  border-radius: 4px 4px 0 0;
  cursor: ns-resize;
  touch-action: none;
  user-select: none;
}
.number:hover,
.number:focus-visible {
  background: color-mix(in srgb, var(--keep) 45%, transparent);
  border-bottom-style: solid;
}
.number.red {
  color: var(--act-text);
}
.number.typing {
  background: var(--card);
  color: var(--ink);
  outline: 2px solid var(--act);
}
</style>

<script setup lang="ts">
/**
 * A word in a sentence that opens its few alternatives. Arrows, the wheel and a drag go from one to the next without
 * opening them; Escape goes back to the one it was.
 */
import { ref, watch } from 'vue'

import type { Alternative, Word } from '@/api/client'
import { useNotices } from '@/page/notices'
import { useDrag } from '@/page/useDrag'
import { useTabStop } from '@/page/tabStop'
import AlternativeList from './AlternativeList.vue'

const props = defineProps<{
  word: Word
  owner: string
  explains: string
  isRed?: boolean
  ink: number
  barTicks: number
  ask: () => Promise<Alternative[]>
}>()
/** `taken`: an alternative was chosen from the open list, so no hand goes on to move the word. */
const emit = defineEmits<{ choose: [alternative: Alternative]; taken: []; plain: [] }>()

const notices = useNotices()
const PIXELS_PER_WORD = 26
const isOpen = ref(false)
/** Counts openings: a list that is opened again while it still closes asks anew. */
const opened = ref(0)
watch(isOpen, (opens) => opens && opened.value++)
const element = ref<HTMLElement>()
const stop = useTabStop()
let isStepping = false
/** Where the word was when the hand began to step it, to go back to; a choice from the list is finished. */
let taken: Alternative | null = null

async function step(by: number) {
  if (isStepping || !by) return
  isStepping = true
  try {
    const all = await props.ask()
    const at = all.findIndex(({ chosen }) => chosen)
    taken ??= all[at] ?? null
    const next = all[Math.min(all.length - 1, Math.max(0, at + by))]
    if (next && !next.chosen) emit('choose', next)
  } catch (reason) {
    notices.complain(reason)
  } finally {
    isStepping = false
  }
}

async function goBack() {
  if (!taken) return
  const wanted = taken
  taken = null
  await notices.attempt(async () => {
    const back = (await props.ask()).find(({ key }) => key === wanted.key)
    if (back && !back.chosen) emit('choose', back)
  })
}

/** What was stepped to stays once the hand has left: it is taken back by undoing it. */
function end() {
  taken = null
}

function onKeyDown(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === 'Delete' || event.key === 'Backspace') emit('plain')
  else if (event.key === 'ArrowUp' || event.key === 'ArrowRight') void step(1)
  else if (event.key === 'ArrowDown' || event.key === 'ArrowLeft') void step(-1)
  else if (event.key === 'Escape' && !isOpen.value) {
    void goBack().finally(() => element.value?.blur())
  } else return
  event.preventDefault()
  event.stopImmediatePropagation() // the menu would open at an arrow
}

function onWheel(event: WheelEvent) {
  if (document.activeElement !== element.value || isOpen.value) return
  event.preventDefault()
  void step(-Math.sign(event.deltaY))
}

/** Whether the press that a click ends has stepped the word along. */
let hasStepped = false
const drag = useDrag(({ clientY }) => {
  let gone = 0
  hasStepped = false
  return {
    move(event) {
      const by = Math.round((clientY - event.clientY) / PIXELS_PER_WORD) - gone
      if (!by) return
      hasStepped = true
      gone += by
      void step(by)
    },
  }
})
function onClick() {
  if (!hasStepped) isOpen.value = !isOpen.value
  hasStepped = false
}
function choose(alternative: Alternative) {
  isOpen.value = false
  end()
  emit('taken')
  if (!alternative.chosen) emit('choose', alternative)
}
</script>

<template>
  <button
    ref="element"
    v-tip="isOpen ? '' : `${word.name}: ${explains}`"
    type="button"
    class="choice"
    :class="{ red: isRed }"
    :tabindex="stop"
    data-owns-keys
    aria-haspopup="true"
    :aria-expanded="isOpen"
    :aria-label="`${owner}: ${word.name}, ${word.text}`"
    v-bind="drag.on"
    @blur="end"
    @keydown="onKeyDown"
    @wheel="onWheel"
    @click="onClick"
  >
    {{ word.text
    }}<v-menu v-model="isOpen" activator="parent" :open-on-click="false" :close-on-content-click="false">
      <AlternativeList
        :key="opened"
        :ask="ask"
        :ink="ink"
        :bar-ticks="barTicks"
        :label="`${owner}: ${word.name}`"
        @choose="choose"
      />
    </v-menu>
  </button>
</template>

<style scoped>
.choice {
  padding: 4px 2px 1px;
  margin: -4px -1px -1px;
  font-weight: 600;
  color: inherit;
  border-bottom: 1.5px dotted currentColor;
  cursor: pointer;
  touch-action: none;
}
.choice:hover,
.choice[aria-expanded='true'] {
  background: color-mix(in srgb, var(--keep) 45%, transparent);
  border-bottom-style: solid;
}
.choice.red {
  color: var(--act-text);
}
</style>

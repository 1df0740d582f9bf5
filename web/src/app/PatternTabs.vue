<script setup lang="ts">
/** The patterns of the piece: choose, copy, put in order, colour, delete. A chosen one takes over from the one that plays. */
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'

import type { Pattern, Piece } from '@/api/client'
import { orderApi } from '@/engine/order'
import { useNotices } from '@/page/notices'
import { saidWhen } from '@/playing/switching'
import { newGesture } from '@/page/gesture'
import { useDrag } from '@/page/useDrag'
import { PASS, useShortcuts, useShortcutState, type Shortcuts } from '@/page/useShortcuts'
import { learns } from '@/hands/learn'
import { usePlaying } from '@/playing/playing'
import { useHeardPattern } from '@/playing/useHeardPattern'
import { inkOf, inks } from '@/theme/inks'
import { newId, newPatternName, randomNumber, withMoved } from '@/work/document'
import { usePiece } from '@/work/piece'
import PatternCard from './PatternCard.vue'

const piece = usePiece()
const playing = usePlaying()
const notices = useNotices()
const shortcuts = useShortcutState()
const route = useRoute()
const isOpen = ref(false)

const { heard, waiting, isWaiting, choose } = useHeardPattern()
const here = computed(() => piece.pattern?.id ?? '')
const when = computed(() => saidWhen(playing.how.at))

function tipOfPattern(pattern: Pattern): string {
  if (isWaiting(pattern.id)) return `Takes over ${when.value}: press again to call it off`
  if (!playing.isPlaying) return 'Work on this pattern ( 1–9, or , and . ); drag it to another place'
  return `Takes over ${when.value}, and ${playing.how.to === 'begin' ? 'begins' : 'carries on'}`
}

/** A new pattern after `origin`, as the engine answers it or as it is known. */
async function insert(label: string, origin: Pattern, make: (document: Piece) => Promise<Pattern> | Pattern) {
  let made: Pattern | null = null
  try {
    const isThere = await piece.editAsAnswered(label, async (document) => {
      const pattern = (made = await make(document))
      const at = document.patterns.findIndex(({ id }) => id === origin.id) + 1
      return { ...document, patterns: document.patterns.toSpliced(at, 0, pattern) }
    })
    if (isThere && made) piece.choosePattern((made as Pattern).id)
    isOpen.value = false
  } catch (reason) {
    notices.complain(reason)
  }
}
const fresh = () => ({
  id: newId('pattern', piece.patterns),
  name: newPatternName(piece.patterns),
  ink: piece.patterns.length % inks.length,
})
function add() {
  const model = piece.pattern
  if (!model) return
  const { id, name, ink } = fresh()
  const plain = { lanes: [], detours: [], movements: [], moved_detours: [], degrees_up: 0, semitones_up: 0 }
  const pattern = { ...model, ...plain, id, name, ink, dice: randomNumber(10_000) }
  void insert(`Pattern ${name} added`, model, () => pattern)
}
/** A copy keeps the lanes' ids and the dice, and so sounds the same, perhaps higher. */
async function copy(degrees = 0, semitones = 0) {
  const model = piece.pattern
  if (!model) return
  const isHigher = degrees !== 0 || semitones !== 0
  const own = fresh()
  const suffix = isHigher ? `, ${degrees || semitones} ${degrees ? 'degrees' : 'semitones'} higher` : ''
  await insert(`Pattern ${model.name} copied to ${own.name}${suffix}`, model, async (document) => {
    const like = isHigher ? await orderApi.higher(document, model.id, degrees, semitones) : model
    return { ...like, ...own }
  })
}
function step(by: number) {
  const at = piece.patterns.findIndex(({ id }) => id === here.value)
  const next = piece.patterns[(at + by + piece.patterns.length) % piece.patterns.length]
  if (next) piece.choosePattern(next.id)
}

/** A pattern is dragged to another place. */
const row = ref<HTMLElement>()
const drag = useDrag((event) => {
  const chip = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-pattern]') : null
  const from = piece.patterns.findIndex(({ id }) => id === chip?.dataset['pattern'])
  const movedPattern = piece.patterns[from]
  if (!movedPattern || !chip) return null
  const gesture = newGesture(`pattern ${movedPattern.id}`)
  let hasMoved = false
  return {
    move({ clientX }) {
      const boxes = [...(row.value?.querySelectorAll<HTMLElement>('[data-pattern]') ?? [])]
      const to = boxes.findIndex((one) => {
        const { left, right } = one.getBoundingClientRect()
        return clientX >= left && clientX < right
      })
      if (to < 0 || (to === from && !hasMoved)) return
      hasMoved = true
      piece.edit(
        `Pattern ${movedPattern.name} to place ${to + 1}`,
        (document) => ({ ...document, patterns: withMoved(document.patterns, from, to) }),
        gesture,
      )
    },
    // The chip has the pointer: a press that moved nothing is its click.
    end: (isTakenAway) => !hasMoved && !isTakenAway && choose(movedPattern.id),
  }
})

const byDigit: Shortcuts = Object.fromEntries(
  Array.from({ length: 9 }, (_, at) => [
    String(at + 1),
    {
      says: at ? '' : 'Pattern A to I',
      act: () => {
        const pattern = piece.patterns[at]
        // On a field digits anchor lanes.
        if (shortcuts.digitsMeanBars || route.name === 'field' || !pattern) return PASS
        return choose(pattern.id)
      },
    },
  ]),
)
useShortcuts({
  ...byDigit,
  ',': { says: 'Pattern before', act: () => step(-1) },
  '.': { says: 'Pattern after', act: () => step(1) },
})
</script>

<template>
  <div ref="row" class="patterns" role="group" aria-label="Patterns">
    <span class="chips" v-bind="drag.on">
      <button
        v-for="(pattern, at) in piece.patterns"
        :key="pattern.id"
        v-tip="tipOfPattern(pattern)"
        type="button"
        class="pattern named"
        :class="{ waiting: isWaiting(pattern.id), heard: pattern.id === heard }"
        :style="{ '--ink-of-pattern': inkOf(pattern.ink ?? 0) }"
        :data-pattern="pattern.id"
        v-bind="learns({ kind: 'pattern', place: at })"
        :aria-pressed="pattern.id === here"
        :aria-label="`Pattern ${pattern.name}`"
        @click="({ detail }) => detail === 0 && choose(pattern.id)"
      >
        {{ pattern.name }}
      </button>
    </span>
    <button
      v-tip="'A new pattern with all that this one has'"
      type="button"
      class="pattern more"
      aria-label="Copy this pattern"
      @click="copy()"
    >
      + copy
    </button>
    <button type="button" class="quiet-button" aria-label="This pattern">
      {{ waiting && waiting !== heard ? when : 'pattern' }}
      <v-menu v-model="isOpen" activator="parent" :close-on-content-click="false">
        <PatternCard
          v-if="piece.pattern"
          :pattern="piece.pattern"
          @copy="copy"
          @add="add"
          @done="isOpen = false"
        />
      </v-menu>
    </button>
  </div>
</template>

<style scoped>
.patterns {
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 6px;
}
.pattern {
  min-width: 32px;
  max-width: 110px;
  height: 32px;
  padding: 0 9px;
  border-radius: 16px;
  border: 1.5px solid var(--rule);
  background: var(--card);
  font-size: 15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}
.chips {
  display: flex;
  gap: 6px;
  overflow-x: auto;
  scrollbar-width: none;
  padding: 4px 3px;
}
.chips .pattern {
  flex: none;
  box-shadow: inset 0 -4px 0 var(--ink-of-pattern);
  touch-action: pan-x;
}
.pattern:hover {
  border-color: var(--ink);
}
.pattern[aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--paper);
}
.chips .pattern.heard {
  box-shadow:
    inset 0 -4px 0 var(--ink-of-pattern),
    0 0 0 2.5px var(--act);
}
.pattern.waiting {
  border: 1.5px dashed var(--act);
}
.patterns > button {
  flex: none;
  white-space: nowrap;
}
.pattern.more {
  border-style: dashed;
  background: transparent;
  color: var(--soft-ink);
}
</style>

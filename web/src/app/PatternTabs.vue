<script setup lang="ts">
/** The patterns of the piece: choose, add, copy, rename, delete. A chosen one begins at the next bar line. */
import { computed, ref } from 'vue'

import type { Pattern } from '@/api/client'
import { useFrames } from '@/page/useFrames'
import { useShortcuts } from '@/page/useShortcuts'
import { newId, newPatternName, randomNumber } from '@/work/document'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { usePlaying } from '@/playing/playing'
import NameField from '@/page/NameField.vue'

const piece = usePiece()
const playing = usePlaying()
const notices = useNotices()
const isOpen = ref(false)

const heard = ref('')
const waiting = ref('')
useFrames(
  () => {
    heard.value = playing.isPlaying ? (playing.player?.patternId ?? '') : ''
    waiting.value = playing.isPlaying ? (playing.player?.waitingFor ?? '') : ''
  },
  () => playing.isPlaying,
  () => [playing.player, piece.pattern?.id],
  15,
)
const here = computed(() => piece.pattern?.id ?? '')
const isWaiting = (pattern: Pattern) => pattern.id === waiting.value && pattern.id !== heard.value

function insert(label: string, pattern: Pattern) {
  piece.edit(label, (document) => {
    const at = document.patterns.findIndex(({ id }) => id === here.value) + 1
    return { ...document, patterns: document.patterns.toSpliced(at, 0, pattern) }
  })
  piece.choosePattern(pattern.id)
  isOpen.value = false
}
const fresh = () => ({ id: newId('pattern', piece.patterns), name: newPatternName(piece.patterns) })
function add() {
  const model = piece.pattern
  if (!model) return
  const { id, name } = fresh()
  insert(`Pattern ${name} added`, { ...model, id, name, dice: randomNumber(10_000), lanes: [], detours: [] })
}
/** A copy keeps the lanes' ids and the dice, and so sounds the same. */
function copy() {
  const model = piece.pattern
  if (!model) return
  const { id, name } = fresh()
  insert(`Pattern ${model.name} copied to ${name}`, { ...model, id, name })
}
function rename(name: string) {
  piece.editPattern(`Pattern renamed ${name}`, (pattern) => ({ ...pattern, name }))
}
function remove() {
  const gone = piece.pattern
  if (!gone || piece.patterns.length === 1) return
  isOpen.value = false
  const at = piece.patterns.indexOf(gone)
  const next = piece.patterns[at + 1] ?? piece.patterns[at - 1]
  piece.edit(`Pattern ${gone.name} deleted`, (document) => ({
    ...document,
    patterns: document.patterns.filter(({ id }) => id !== gone.id),
  }))
  if (next) piece.choosePattern(next.id)
  notices.say(`Pattern ${gone.name} is deleted.`, { label: 'Undo', act: () => piece.undo() })
}
function step(by: number) {
  const at = piece.patterns.findIndex(({ id }) => id === here.value)
  const next = piece.patterns[(at + by + piece.patterns.length) % piece.patterns.length]
  if (next) piece.choosePattern(next.id)
}
useShortcuts({
  ',': { says: 'Pattern before', act: () => step(-1) },
  '.': { says: 'Pattern after', act: () => step(1) },
})
</script>

<template>
  <div class="patterns" role="group" aria-label="Patterns">
    <button
      v-for="pattern in piece.patterns"
      :key="pattern.id"
      v-tip="
        isWaiting(pattern)
          ? 'Begins at the next bar line'
          : playing.isPlaying
            ? 'Begins at the next bar line, at its first step'
            : 'Work on this pattern ( , and . )'
      "
      type="button"
      class="pattern named"
      :class="{ waiting: isWaiting(pattern), heard: pattern.id === heard }"
      :aria-pressed="pattern.id === here"
      :aria-label="`Pattern ${pattern.name}`"
      @click="piece.choosePattern(pattern.id)"
    >
      {{ pattern.name }}
    </button>
    <button
      v-tip="'A new pattern with all that this one has'"
      type="button"
      class="pattern more"
      aria-label="Copy this pattern"
      @click="copy"
    >
      + copy
    </button>
    <button
      v-tip="'A new pattern, empty'"
      type="button"
      class="pattern more"
      aria-label="Add a pattern"
      @click="add"
    >
      + <span class="wide">empty</span>
    </button>
    <button type="button" class="quiet-button" aria-label="This pattern">
      {{ waiting && waiting !== heard ? 'at the next bar line' : 'pattern' }}
      <v-menu v-model="isOpen" activator="parent" :close-on-content-click="false">
        <div class="card about">
          <NameField :name="piece.pattern?.name ?? ''" label="Name of the pattern" @rename="rename" />
          <button type="button" class="quiet-button" :disabled="piece.patterns.length === 1" @click="remove">
            Delete this pattern
          </button>
        </div>
      </v-menu>
    </button>
  </div>
</template>

<style scoped>
.patterns {
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
.pattern:hover {
  border-color: var(--ink);
}
.pattern[aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--paper);
}
.pattern.heard {
  box-shadow: 0 0 0 2.5px var(--act);
}
.pattern.waiting {
  border: 1.5px dashed var(--act);
}
.pattern.more {
  border-style: dashed;
  background: transparent;
  color: var(--soft-ink);
}
@media (max-width: 1180px) {
  .wide {
    display: none;
  }
}
.about {
  display: grid;
  justify-items: start;
  gap: 4px;
  min-width: 220px;
  padding: 14px 16px;
}
.about .quiet-button {
  min-height: 34px;
}
.about .quiet-button:disabled {
  opacity: 0.45;
}
</style>

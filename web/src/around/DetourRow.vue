<script setup lang="ts">
/** The five kinds of detour, each with its one number: held, it plays; let go, all is where it would have been. */
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { numberWord } from '@/sentence/number'
import NumberWord from '@/sentence/NumberWord.vue'
import { isSame } from '@/api/same'
import { usePiece } from '@/work/piece'
import { useDetourHands } from './useDetourHands'
import { useDetours, type Detour } from './useDetours'

/** Ids of the lanes that the kind "only" takes when it is set. */
const props = defineProps<{ lanes: readonly string[] }>()
const emit = defineEmits<{ close: [] }>()
const piece = usePiece()
const detours = useDetours()

type Line = Schemas['DetourLine']
const detourOf = (line: Line): Detour => detours.detourOf(line.kind) ?? line.plain
const wordOf = (line: Line) =>
  numberWord(`${line.kind}: ${line.field}`, numberOf(line), { min: line.low, max: line.high }, line.field)
const numberOf = (line: Line) => Number((detourOf(line) as unknown as Record<string, unknown>)[line.field])
const move = (line: Line, value: number | string) =>
  detours.set({ ...detourOf(line), [line.field]: Number(value) } as Detour)

const names = computed(() => {
  const only = detours.detourOf('only')
  const ids = only?.kind === 'only' ? only.lanes : []
  return piece.lanes.filter(({ id }) => ids.includes(id)).map(({ name }) => name)
})
const takeLanes = () => detours.set({ kind: 'only', lanes: [...props.lanes] })
const handsOn = useDetourHands((kind) => {
  if (kind === 'only' && !names.value.length && props.lanes.length) takeLanes()
})
</script>

<template>
  <div class="detours" role="group" aria-label="Detours">
    <span class="named title">Detour</span>
    <div
      v-for="line in detours.kinds"
      :key="line.kind"
      class="kind"
      :class="{ chosen: detours.kind === line.kind, held: detours.holding.has(line.kind) }"
    >
      <button
        v-tip="
          `${line.explains}\nHold it${detours.kind === line.kind ? ' (X)' : ''}; let go, and all is where it would have been.`
        "
        type="button"
        class="hold"
        :aria-pressed="detours.holding.has(line.kind)"
        v-bind="handsOn(line.kind)"
        @contextmenu.prevent
      >
        <span class="visually-hidden">Hold: </span>{{ line.kind }}
        <kbd v-if="detours.kind === line.kind" aria-hidden="true">X</kbd>
      </button>
      <span v-if="line.field" class="its">
        <NumberWord
          :word="wordOf(line)"
          owner="Detour"
          :explains="line.explains"
          @move="(value) => move(line, value)"
          @plain="detours.set(line.plain)"
        />{{ line.unit }}
      </span>
      <span
        v-else-if="line.options.length"
        class="its options"
        role="group"
        :aria-label="`${line.kind}: how`"
      >
        <button
          v-for="option in line.options"
          :key="option.text"
          type="button"
          class="option"
          :aria-pressed="isSame(option.detour, detourOf(line))"
          @click="detours.set(option.detour)"
        >
          {{ option.text }}
        </button>
      </span>
      <button
        v-else
        v-tip="'Take the lanes that are chosen'"
        type="button"
        class="option wide"
        :disabled="!lanes.length"
        @click="takeLanes"
      >
        {{ names.join(', ') || 'the chosen lanes' }}
      </button>
    </div>
    <button
      v-tip="'Give the one at hand to the pattern: in the last bar of every eight, until it is taken away'"
      type="button"
      class="word-button"
      @click="detours.addToPattern(detours.kind)"
    >
      {{ detours.kind }} each 8th bar
    </button>
    <button type="button" class="quiet-button close" aria-label="Close the detours" @click="emit('close')">
      Close
    </button>
  </div>
</template>

<style scoped>
.detours {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 6px;
  padding: 4px 12px 6px 24px;
  grid-column: 1 / -1;
}
.title {
  font-size: 17px;
}
.kind {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 2px 4px 2px 2px;
  border: 1.5px solid var(--rule);
  border-radius: 18px;
  background: var(--card);
  font-size: 14px;
}
.kind.chosen {
  border-color: var(--ink);
}
.kind.held {
  border-color: var(--act);
  box-shadow: inset 0 0 0 1.5px var(--act);
}
.hold {
  min-height: 32px;
  padding: 2px 10px;
  border-radius: 16px;
  background: var(--ink);
  color: var(--paper);
  font-weight: 650;
  cursor: pointer;
  touch-action: none;
  user-select: none;
}
.held .hold {
  background: var(--act-text);
  color: var(--on-act);
}
.hold kbd {
  margin-left: 4px;
  font: inherit;
  opacity: 0.75;
}
.its {
  padding: 0 4px;
}
.options {
  display: flex;
  padding: 0;
}
.option {
  min-width: 28px;
  min-height: 28px;
  padding: 0 5px;
  border-radius: 14px;
  font: 500 14px/1 var(--text-font);
  color: var(--soft-ink);
  cursor: pointer;
}
.option:hover:not(:disabled) {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.option[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 700;
  box-shadow: inset 0 -2px 0 var(--ink);
}
.option.wide {
  max-width: 150px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--ink);
}
.close {
  margin-left: auto;
}
@media (pointer: coarse) {
  .hold,
  .option {
    min-height: 40px;
  }
}
</style>

<script setup lang="ts">
/** What is done to the pattern on the table as a whole: its name and colour, copies, its place, what is brought into it. */
import { computed, ref } from 'vue'

import { Raising } from '@/api/limits.json'
import type { Pattern } from '@/api/client'
import { orderApi } from '@/engine/order'
import SwitchWords from '@/around/SwitchWords.vue'
import { useNotices } from '@/page/notices'
import NameField from '@/page/NameField.vue'
import { inks, inkOf } from '@/theme/inks'
import { withMoved, withPattern } from '@/work/document'
import { usePiece } from '@/work/piece'
import { useTrail } from '@/work/trail'

const props = defineProps<{ pattern: Pattern }>()
const emit = defineEmits<{ copy: [degrees: number, semitones: number]; add: []; done: [] }>()
const piece = usePiece()
const trail = useTrail()
const notices = useNotices()
const at = computed(() => piece.patterns.findIndex(({ id }) => id === props.pattern.id))

const rename = (name: string) =>
  piece.editPattern(`Pattern renamed ${name}`, (pattern) => ({ ...pattern, name }))
const dye = (ink: number) =>
  piece.editPattern(`Pattern ${props.pattern.name}: colour`, (pattern) => ({ ...pattern, ink }))
function move(by: number) {
  const [from, to] = [at.value, at.value + by]
  if (to < 0 || to >= piece.patterns.length) return
  piece.edit(`Pattern ${props.pattern.name} to place ${to + 1}`, (document) => ({
    ...document,
    patterns: withMoved(document.patterns, from, to),
  }))
}

/** By how much a copy is higher: a fourth to begin with. */
const up = ref(3)
const unit = ref<'degrees' | 'semitones'>('degrees')
const copyHigher = () =>
  emit(
    'copy',
    ...([unit.value === 'degrees' ? up.value : 0, unit.value === 'degrees' ? 0 : up.value] as const),
  )

function remove() {
  const removed = props.pattern
  const rows = (piece.document?.order ?? []).flatMap(({ pattern }, place) =>
    pattern === removed.id ? [place + 1] : [],
  )
  if (!rows.length) return take(removed)
  const said =
    rows.length === 1
      ? `row ${rows[0]} plays`
      : `rows ${rows.slice(0, -1).join(', ')} and ${rows.at(-1)} play`
  emit('done')
  notices.complain(`Pattern ${removed.name} stays: in the order, ${said} it.`, {
    label: `Delete it with ${rows.length === 1 ? 'that row' : 'those rows'}`,
    act: () => take(removed),
  })
}
function take(gone: Pattern) {
  const next = piece.patterns[at.value + 1] ?? piece.patterns[at.value - 1]
  emit('done')
  piece.edit(`Pattern ${gone.name} deleted`, (document) => ({
    ...document,
    patterns: document.patterns.filter(({ id }) => id !== gone.id),
    order: document.order.filter(({ pattern }) => pattern !== gone.id),
  }))
  if (next) piece.choosePattern(next.id)
  notices.say(`Pattern ${gone.name} is deleted.`, { label: 'Undo', act: () => trail.undo() })
}

// ---- Bringing from another pattern ----
const WHAT = [
  ['lanes', 'lanes'],
  ['strips', 'strips'],
  ['settings', 'settings'],
] as const
const others = computed(() => piece.patterns.filter(({ id }) => id !== props.pattern.id))
const origin = ref('')
const what = ref<(typeof WHAT)[number][0]>('lanes')
const from = computed(() => others.value.find(({ id }) => id === origin.value) ?? others.value[0])
async function bring(laneIds: readonly string[]) {
  const [origin, into, brings] = [from.value, props.pattern.id, what.value]
  if (!origin || !laneIds.length) return
  const names = origin.lanes.filter(({ id }) => laneIds.includes(id)).map(({ name }) => name)
  const said = names.length > 2 ? `${names.length} lanes` : names.join(' and ')
  try {
    const isBrought = await piece.editAsAnswered(`${said} brought from ${origin.name}`, async (document) => {
      const lanes = await orderApi.bring(document, {
        origin: origin.id, into, lanes: [...laneIds], what: brings,
      }) // prettier-ignore
      return withPattern(document, into, (pattern) => ({ ...pattern, lanes }))
    })
    if (!isBrought) return
    notices.say(`${brings === 'lanes' ? '' : `The ${brings} of `}${said} brought from ${origin.name}.`, {
      label: 'Undo',
      act: () => trail.undo(),
    })
  } catch (reason) {
    notices.complain(reason)
  }
}
</script>

<template>
  <div class="card about" role="dialog" aria-label="This pattern">
    <div class="line">
      <NameField :name="pattern.name" label="Name of the pattern" @rename="rename" />
      <button
        type="button"
        class="quiet-button"
        :disabled="at === 0"
        aria-label="Move the pattern earlier"
        @click="move(-1)"
      >
        ‹ earlier
      </button>
      <button
        type="button"
        class="quiet-button"
        :disabled="at === piece.patterns.length - 1"
        aria-label="Move the pattern later"
        @click="move(1)"
      >
        later ›
      </button>
    </div>
    <div class="inks" role="group" aria-label="Colour of the pattern">
      <button
        v-for="(_, ink) in inks.slice(0, 8)"
        :key="ink"
        type="button"
        class="ink"
        :style="{ background: inkOf(ink) }"
        :aria-pressed="pattern.ink === ink"
        :aria-label="`Colour ${ink + 1}`"
        @click="dye(ink)"
      />
    </div>
    <div class="line">
      <button type="button" class="word-button" @click="copyHigher">Copy higher</button>
      by
      <input
        v-model.number="up"
        class="small-field number"
        type="number"
        v-bind="Raising[unit]"
        aria-label="By how much the copy is higher"
      />
      <select v-model="unit" class="small-field" aria-label="In what the copy is higher">
        <option value="degrees">degrees</option>
        <option value="semitones">semitones</option>
      </select>
    </div>
    <div v-if="others.length" class="line">
      bring
      <select v-model="what" class="small-field" aria-label="What to bring">
        <option v-for="[key, said] in WHAT" :key="key" :value="key">{{ said }}</option>
      </select>
      from
      <select v-model="origin" class="small-field" aria-label="From which pattern">
        <option v-for="one in others" :key="one.id" :value="one.id === others[0]?.id ? '' : one.id">
          {{ one.name }}
        </option>
      </select>
    </div>
    <div v-if="from" class="lanes" role="group" aria-label="Lanes to bring">
      <button
        v-for="lane in from.lanes"
        :key="lane.id"
        type="button"
        class="word-button lane"
        :style="{ borderLeftColor: inkOf(lane.ink) }"
        @click="bring([lane.id])"
      >
        {{ lane.name }}
      </button>
      <button
        v-if="from.lanes.length > 1"
        type="button"
        class="word-button lane"
        @click="bring(from.lanes.map(({ id }) => id))"
      >
        all
      </button>
    </div>
    <hr />
    <SwitchWords />
    <hr />
    <div class="line">
      <button type="button" class="quiet-button" @click="emit('add')">Add a pattern, empty</button>
      <button type="button" class="quiet-button" :disabled="piece.patterns.length === 1" @click="remove">
        Delete this pattern
      </button>
    </div>
  </div>
</template>

<style scoped>
.about {
  display: grid;
  gap: 10px;
  width: 440px;
  padding: 14px 16px;
  font-size: 15px;
}
.line,
.inks,
.lanes {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 8px;
}
.ink {
  width: 30px;
  height: 30px;
  border-radius: 50%;
  cursor: pointer;
}
.ink[aria-pressed='true'] {
  outline: 3px solid var(--ink);
  outline-offset: 2px;
}
.number {
  width: 64px;
}
.lane {
  border-left-width: 7px;
  min-height: 30px;
  padding: 0 9px;
  font-size: 14px;
}
hr {
  border: 0;
  border-top: 1px solid var(--rule);
}
.quiet-button {
  min-height: 32px;
}
.quiet-button:disabled {
  opacity: 0.45;
}
</style>

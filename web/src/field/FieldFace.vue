<script setup lang="ts">
/** A field of candidates beside the pattern: pointed at, seen, heard, and made into something. */
import { useElementSize } from '@vueuse/core'
import { computed, onBeforeUnmount, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { useTheme } from 'vuetify'

import type { Lane, Pattern } from '@/api/client'
import { takesApi } from '@/api/takes'
import { useDetours } from '@/around/useDetours'
import { useNotices } from '@/page/notices'
import { useShortcuts } from '@/page/useShortcuts'
import { newId, newPatternName, scoreOf } from '@/work/document'
import { usePiece } from '@/work/piece'
import { useAudition } from '@/work/audition'
import BesideThreads from './BesideThreads.vue'
import FieldPlot from './FieldPlot.vue'
import FieldSettings from './FieldSettings.vue'
import { useField } from './useField'
import { useFieldSettings } from './useFieldSettings'

const piece = usePiece()
const audition = useAudition()
const notices = useNotices()
const router = useRouter()
const theme = useTheme()
const detours = useDetours()
const settings = useFieldSettings()
const {
  field,
  refusal,
  isBehind,
  pointed,
  candidate,
  heard,
  allWays,
  variationOf,
  point,
  letGo,
  throwAgain,
  made,
} = useField()
onBeforeUnmount(() => {
  letGo()
  audition.end()
})

// ---- A candidate becomes ... ----
const side = useTemplateRef<HTMLElement>('side')
const { width: sideWidth } = useElementSize(side)
const called = computed(() => (pointed.value === null ? 'The start' : `No. ${pointed.value + 1}`))
const isElsewhere = computed(() => audition.isOn)
/** A point of the field; where one looks around from a place beside the pattern, that place too. */
const isCandidate = computed(() => pointed.value !== null || isElsewhere.value)
/** What is pointed at when it is pressed, though the engine may have it still to say. */
async function take(act: (from: Pattern, called: string) => unknown) {
  const from = piece.pattern
  const saidNow = called.value
  if (!from || !isCandidate.value) return
  const lanes = await made()
  if (lanes && piece.pattern?.id === from.id) await act({ ...from, lanes }, saidNow)
}

const asPattern = () =>
  take(({ lanes }, called) => {
    piece.editPattern(`Field: ${called}`, (pattern) => ({ ...pattern, lanes }))
    letGo()
  })
const asNewPattern = () =>
  take((from, called) => {
    const fresh = { ...from, id: newId('pattern', piece.patterns), name: newPatternName(piece.patterns) }
    piece.edit(`Pattern ${fresh.name}: ${called} of the field around ${from.name}`, (document) => ({
      ...document,
      patterns: [...document.patterns, fresh],
    }))
    letGo()
    notices.say(`Pattern ${fresh.name} is ${called.toLowerCase()} of this field.`, {
      label: `Go to ${fresh.name}`,
      act: () => piece.choosePattern(fresh.id),
    })
  })
async function keep(as: 'take' | 'clip', from: Pattern, called: string) {
  const document = piece.document
  if (!document) return
  const name = `${from.name}, ${called.toLowerCase()}`
  try {
    const sheet = await takesApi.throw({
      piece_id: piece.id, piece: document.name, pattern: name, score: scoreOf(document, from), dice: piece.dice,
      first_bar: 0, bars: from.bars, lanes: null, vary: 0, count: 1,
    }) // prettier-ignore
    if (as === 'take') return notices.say(`Kept as a take of ${document.name}, pattern ${name}.`)
    const clip = await takesApi.keep(sheet.sheet.id, 1)
    notices.say(`Kept “${clip.name}”.`, { label: 'To the clips', act: () => router.push('/clips') })
  } catch (reason) {
    notices.complain(reason, { label: 'Try again', act: () => keep(as, from, called) })
  }
}
const keepAs = (as: 'take' | 'clip') => take((from, called) => keep(as, from, called))
function asDetour() {
  if (pointed.value === null) return
  detours.give(variationOf(pointed.value))
  letGo()
  notices.say(`X held plays ${called.value.toLowerCase()} of this field.`)
}
/** A new field there: the pattern itself stays as it is. */
const aroundThis = () =>
  take(({ lanes }) => {
    letGo()
    audition.start((pattern) => ({ ...pattern, lanes }))
  })
const anchor = (lane: Lane) =>
  audition.goOnAfter(() =>
    piece.editLane(lane.id, `${lane.name}: ${lane.anchored ? 'not anchored' : 'anchored'}`, (now) => ({
      ...now,
      anchored: !lane.anchored,
    })),
  )
function anchorAt(place: number) {
  const lane = piece.lanes[place]
  if (lane) anchor(lane)
}

useShortcuts({
  't': { says: 'Throw the field again', act: throwAgain },
  ...Object.fromEntries(
    Array.from({ length: 9 }, (_, at) => [
      `${at + 1}`,
      { says: at ? '' : '1-9: anchor a lane, or free it', act: () => anchorAt(at) },
    ]),
  ),
}) // prettier-ignore
</script>

<template>
  <div class="whole">
    <p class="says" aria-live="polite">
      <b>Around {{ isElsewhere ? 'a place beside ' : '' }}pattern {{ piece.pattern?.name }}.</b>
      {{ field?.says }}
      <button v-if="isElsewhere" type="button" class="quiet-button back" @click="audition.end()">
        Where I started
      </button>
      <button
        v-if="field?.nearest != null"
        type="button"
        class="word-button"
        @click="
          field.nearest < (settings.least ?? 0)
            ? (settings.least = Math.floor(field.nearest))
            : (settings.most = Math.ceil(field.nearest))
        "
      >
        Widen to {{ field.nearest.toFixed(1) }} hits a bar
      </button>
    </p>

    <FieldPlot
      v-if="field"
      class="plane"
      :field="field"
      :axes="settings.axes"
      :pointed="pointed"
      :heard="heard"
      :theme="theme.name.value"
      :is-behind="isBehind"
      @point="point"
      @take="asPattern"
    />
    <div v-else class="plane empty" role="status">{{ refusal || 'Looking around …' }}</div>
    <section ref="side" class="side" aria-label="The pattern that is pointed at">
      <h2>{{ called }}</h2>
      <p class="soft">
        {{ candidate?.says || 'Point at a pattern to see it; while it plays, to hear it.' }}
      </p>
      <BesideThreads
        v-if="candidate"
        :candidate="candidate"
        :lanes="piece.lanes"
        :width="sideWidth"
        @anchor="anchor"
      />
      <div class="become" role="group" aria-label="What it becomes">
        <button type="button" class="word-button strong" :disabled="!isCandidate" @click="asPattern">
          Becomes the pattern <kbd>Enter</kbd>
        </button>
        <button type="button" class="word-button" :disabled="!isCandidate" @click="aroundThis">
          Around this one
        </button>
        <button type="button" class="word-button" :disabled="!isCandidate" @click="asNewPattern">
          New pattern
        </button>
        <button type="button" class="word-button" :disabled="!isCandidate" @click="keepAs('take')">
          Take
        </button>
        <button type="button" class="word-button" :disabled="!isCandidate" @click="keepAs('clip')">
          Clip
        </button>
        <button type="button" class="word-button" :disabled="!isCandidate" @click="asDetour">
          Detour <kbd>X</kbd>
        </button>
      </div>
    </section>
    <FieldSettings class="below" :field="field" :all-ways="allWays" @again="throwAgain" />
  </div>
</template>

<style scoped>
.whole {
  display: contents;
}
.says,
.soft {
  color: var(--soft-ink);
  font-size: 15px;
}
.says b {
  color: var(--ink);
}
.back {
  color: var(--act-text);
}
.plane {
  grid-column: 1 / 3;
  grid-row: 2;
}
.empty {
  display: grid;
  place-items: center;
  padding: 40px;
  border: 1.5px dashed var(--rule);
  border-radius: 18px;
  font-size: 16px;
  text-align: center;
}
.side {
  grid-column: 3;
  grid-row: 2 / 4;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
h2 {
  font-size: 22px;
}
.become {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: auto;
}
kbd {
  font: inherit;
  opacity: 0.7;
}
.below {
  grid-column: 1 / 3;
  grid-row: 3;
}
.says {
  grid-column: 2 / -1;
  grid-row: 1;
  align-self: center;
}
@media (max-width: 900px) {
  .side {
    grid-row: 2;
  }
  .below {
    grid-column: 1 / -1;
  }
}
</style>

<script setup lang="ts">
/** The foot of every working screen: play, where the music is, what holds for the pattern, the tape, and keep. */
import { computed, ref } from 'vue'

import type { Schemas, Score } from '@/api/client'
import { isSame } from '@/api/same'
import { patternWords, provideWords } from '@/hands/words'
import { useFrames } from '@/page/useFrames'
import { giveBackKeys, PASS, useShortcuts, useShortcutState } from '@/page/useShortcuts'
import SentenceLine from '@/sentence/SentenceLine.vue'
import { useRendering } from '@/engine/useRendering'
import { randomNumber } from '@/work/document'
import { usePiece } from '@/work/piece'
import { useMoves } from '@/playing/moves'
import { useOrder } from '@/playing/order'
import { learns } from '@/hands/learn'
import { usePlaying } from '@/playing/playing'
import { barOf, beatOf } from '@/sound/time'
import TapeStrip from './TapeStrip.vue'

const KEEPS = [1, 2, 4, 8] as const
interface Spoken {
  readonly score: Score
  readonly dice: number
  readonly window: Schemas['Window']
}
const piece = usePiece()
const playing = usePlaying()
const moves = useMoves()
useOrder() // what follows a row is known wherever one is

/**
 * The words of tempo, meter and dice come from the engine, as all words do. They do not speak of lanes, so it is asked
 * without them, and only when what they speak of changes.
 */
const spokenOf = computed<Spoken | null>((old) => {
  const now = piece.score && {
    score: { ...piece.score, lanes: [] },
    dice: piece.dice,
    window: { first_bar: 0, bars: 1 },
  }
  return isSame(old, now) && old ? old : now
})
const { rendering } = useRendering(spokenOf)
const standing = (name: string) => rendering.value?.standing.filter(({ setting }) => setting === name) ?? []

provideWords(patternWords())
function newDice() {
  const dice = randomNumber(10_000)
  piece.editPattern(`new dice ${dice}`, (pattern) => ({ ...pattern, dice }))
}

// ---- Recording ahead ----
const isSounding = computed(() => playing.isPlaying || playing.looping !== '')
const AHEAD = [1, 2, 4, 8, 16, 32, 64] as const
const aheadBars = ref(8)
const countIn = ref(true)
/** How far the recording has come, as it is told on the button. */
const aheadSaid = ref('')

const place = ref('1 : 1')
function tell() {
  tellAhead()
  if (!rendering.value) return
  const { bar_ticks, beat_ticks } = rendering.value
  const loop = playing.looping ? playing.loop : null
  const tick = loop?.nowTick ?? playing.player?.nowTick ?? 0
  place.value = `${(barOf(tick, bar_ticks) + 1).toLocaleString('en')} : ${beatOf(tick, bar_ticks, beat_ticks) + 1}`
}
function tellAhead() {
  const recording = playing.ahead
  if (!recording) {
    aheadSaid.value = ''
    return
  }
  const now = barOf(recording.stretch.nowTick, recording.stretch.barTicks)
  const done = now - recording.first
  aheadSaid.value = done < 0 ? 'from the next bar' : `bar ${done + 1} of ${recording.end - recording.first}`
}
useFrames(
  tell,
  () => isSounding.value,
  () => [playing.player, playing.looping, playing.ahead, rendering.value],
  30,
)

// ---- Keeping: K, then how many bars ----
const shortcuts = useShortcutState()
const isKeyOpen = computed({
  get: () => shortcuts.digitsMeanBars,
  set: (opens) => (shortcuts.digitsMeanBars = opens),
})
let closing: ReturnType<typeof setTimeout> | undefined
function openKey() {
  giveBackKeys() // the digit that follows is how many bars, wherever the hand was
  isKeyOpen.value = true
  clearTimeout(closing)
  closing = setTimeout(() => (isKeyOpen.value = false), 3000)
}
function keepBy(bars: number) {
  if (!isKeyOpen.value) return PASS
  isKeyOpen.value = false
  return keep(bars)
}
async function keep(bars: number) {
  if (bars <= 8) playing.keptBars = bars
  await playing.keep(bars)
}

useShortcuts({
  'Shift+r': { says: 'Record moves, or not', act: moves.toggle },
  'Shift+k': { says: 'Record the next bars, or cancel', act: () => playing.recordAhead(aheadBars.value, countIn.value) },
  'k': { says: 'Keep: then 1, 2, 4 or 8 bars, 0 for 16', act: openKey },
  '1': { says: '', act: () => keepBy(1) },
  '2': { says: '', act: () => keepBy(2) },
  '4': { says: '', act: () => keepBy(4) },
  '8': { says: '', act: () => keepBy(8) },
  '0': { says: '', act: () => keepBy(16) },
}) // prettier-ignore
</script>

<template>
  <footer class="deck">
    <button
      v-tip="`${isSounding ? 'Stop' : 'Play from bar 1'} (Space)`"
      type="button"
      class="play"
      data-hint="play"
      :class="{ stop: isSounding }"
      :aria-label="isSounding ? 'Stop' : 'Play from bar 1'"
      :disabled="playing.isStarting"
      v-bind="learns({ kind: 'act', act: 'play' })"
      @click="isSounding ? playing.stop() : playing.play()"
    >
      <svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true">
        <rect v-if="isSounding" x="5" y="5" width="14" height="14" rx="2" fill="currentColor" />
        <path v-else d="M7 4l13 8-13 8z" fill="currentColor" />
      </svg>
    </button>
    <div class="standing">
      <div class="place">
        <span class="named" data-test="place">{{ place }}</span> <small>bar : beat</small>
        <span class="words dice-words">
          dice
          <SentenceLine owner="Pattern" :parts="standing('dice')" />
          <button
            v-tip="'New dice: every chance falls otherwise'"
            type="button"
            class="dice"
            @click="newDice"
          >
            new
          </button>
        </span>
      </div>
      <div class="words">
        <span v-if="piece.clockTempo === null"
          ><SentenceLine owner="Piece" :parts="standing('tempo')" /> BPM</span
        >
        <span v-else v-tip="'The tempo of the clock from outside: see Ports. The piece keeps its own.'"
          ><b>{{ piece.clockTempo }}</b> BPM by clock</span
        >
        <span><SentenceLine owner="Pattern" :parts="standing('meter')" /></span>
        <span>
          swing
          <SentenceLine owner="Piece" :parts="standing('swing')" />
        </span>
      </div>
    </div>
    <button
      v-tip="'Every control that is moved while it plays is written down, and moves again (Shift+R)'"
      type="button"
      class="moves"
      :class="{ on: moves.isOn, running: moves.isOn && playing.isPlaying }"
      :aria-pressed="moves.isOn"
      @click="moves.toggle"
    >
      <span aria-hidden="true" class="disc" />
      <span class="visually-hidden">Record </span><span class="named">moves</span>
      <small>{{ moves.isOn ? (playing.isPlaying ? 'written down' : 'when it plays') : 'not written' }}</small>
    </button>
    <TapeStrip
      :tape="playing.tape"
      :is-playing="playing.isPlaying"
      :kept-bars="playing.keptBars"
      @keep="(stretch, first, end) => playing.keep(end - first, { stretch, first, end })"
    />
    <div class="keeping" :class="{ open: isKeyOpen }">
      <button
        v-tip="'Keep the last bars that sounded as a clip (K, then 1 2 4 8, or 0 for 16)'"
        type="button"
        class="keep named"
        data-hint="keep"
        v-bind="learns({ kind: 'act', act: 'keep' })"
        @click="keep(playing.keptBars)"
      >
        {{
          isKeyOpen ? 'Keep … bars?' : `Keep ${playing.keptBars} ${playing.keptBars === 1 ? 'bar' : 'bars'}`
        }}
      </button>
      <div class="counts" role="group" aria-label="Bars to keep">
        <button
          v-for="count in KEEPS"
          :key="count"
          type="button"
          :aria-pressed="count === playing.keptBars"
          :aria-label="`Keep ${count} bars at a time`"
          @click="playing.keptBars = count"
        >
          {{ count }}
        </button>
      </div>
    </div>
    <div class="keeping ahead" :class="{ on: playing.ahead }">
      <button
        v-tip="'Keep the next bars, with all that you do meanwhile, from the next bar line on (Shift+K)'"
        type="button"
        class="record named"
        @click="playing.recordAhead(aheadBars, countIn)"
      >
        {{ playing.ahead ? 'Cancel' : `Record ${aheadBars} more` }}
      </button>
      <p v-if="playing.ahead" class="how" role="status">{{ aheadSaid }}</p>
      <div v-else class="how">
        <select v-model="aheadBars" aria-label="Bars to record ahead">
          <option v-for="count in AHEAD" :key="count" :value="count">
            {{ count }} {{ count === 1 ? 'bar' : 'bars' }}
          </option>
        </select>
        <button
          v-tip="'A bar of clicks before, when it begins from a stop'"
          type="button"
          :aria-pressed="countIn"
          @click="countIn = !countIn"
        >
          {{ countIn ? 'count in' : 'no count' }}
        </button>
      </div>
    </div>
  </footer>
</template>

<style scoped>
.deck {
  display: flex;
  align-items: center;
  gap: 16px;
  height: 88px;
  padding: 4px 16px;
  background: var(--deck);
  color: var(--on-deck);
}
.moves {
  flex: none;
  display: grid;
  grid-template-columns: auto auto;
  align-items: center;
  justify-content: start;
  gap: 2px 8px;
  width: 108px;
  height: 60px;
  padding: 6px 10px;
  border-radius: 12px;
  border: 1.5px solid color-mix(in srgb, var(--on-deck) 35%, transparent);
  color: var(--on-deck);
  text-align: left;
  cursor: pointer;
}
.moves .named {
  font-size: 16px;
}
.moves small {
  grid-column: 1 / -1;
  font-size: 13px;
  white-space: nowrap;
}
.disc {
  width: 13px;
  height: 13px;
  border-radius: 50%;
  border: 2px solid currentcolor;
}
.moves.on {
  border-color: var(--act);
}
.moves.on .disc {
  background: var(--act);
  border-color: var(--act);
}
.moves.running {
  background: var(--act-text);
  color: #fff;
}
.moves.running .disc {
  background: #fff;
  border-color: #fff;
}
.play {
  flex: none;
  width: 60px;
  height: 60px;
  display: grid;
  place-items: center;
  border-radius: 50%;
  background: var(--act-text);
  color: #fff;
  cursor: pointer;
}
.v-theme--night .play {
  background: #b8361c;
}
.play:hover {
  background: #d9482b;
}
.play:disabled {
  opacity: 0.6;
}
.play:focus-visible,
.keep:focus-visible,
.counts button:focus-visible {
  outline-color: var(--keep);
}
.standing {
  flex: none;
  width: 296px;
}
.place {
  display: flex;
  gap: 7px;
  align-items: baseline;
  font-size: 27px;
  line-height: 34px;
}
.words.dice-words {
  margin-left: auto;
  gap: 6px;
}
.place small {
  font-size: 13px;
  color: var(--on-deck-soft);
}
.words {
  display: flex;
  gap: 14px;
  align-items: baseline;
  font-size: 14px;
  color: var(--on-deck-soft);
  white-space: nowrap;
}
.words :deep(.sentence),
.words :deep(.number),
.words :deep(.choice) {
  color: var(--on-deck);
}
.words :deep(.number.typing) {
  color: var(--ink);
}
.dice {
  margin-left: 6px;
  min-height: 28px;
  padding: 0 8px;
  border-radius: 8px;
  border: 1.5px solid color-mix(in srgb, var(--on-deck-soft) 45%, transparent);
  color: var(--on-deck);
  cursor: pointer;
}
.dice:hover {
  border-color: var(--on-deck);
}
.keeping {
  flex: none;
  width: 150px;
  text-align: center;
}
.keep {
  width: 100%;
  height: 44px;
  border-radius: 22px;
  background: var(--keep);
  color: #2b2440;
  font-size: 17px;
  cursor: pointer;
}
.keep:hover {
  filter: brightness(1.08);
}
.record {
  width: 100%;
  height: 44px;
  border-radius: 22px;
  border: 2px solid var(--on-deck-soft);
  color: var(--on-deck);
  font-size: 16px;
  cursor: pointer;
}
.record:hover {
  border-color: var(--on-deck);
}
.on .record {
  border-color: var(--act);
  background: color-mix(in srgb, var(--act) 38%, transparent);
}
.how {
  display: flex;
  justify-content: center;
  gap: 8px;
  height: 28px;
  margin-top: 4px;
  align-items: center;
  font: 600 14px/1 var(--text-font);
  color: var(--on-deck-soft);
}
.how select {
  appearance: none;
  min-height: 28px;
  padding: 0 8px;
  border: 0;
  border-radius: 14px;
  background: color-mix(in srgb, var(--on-deck) 12%, transparent);
  color: inherit;
  font: inherit;
}
.how option {
  color: #2b2440;
}
.how button {
  min-height: 28px;
  cursor: pointer;
}
.how button[aria-pressed='true'] {
  color: var(--on-deck);
}
.open .keep {
  outline: 3px solid var(--on-deck);
}
.counts {
  display: flex;
  justify-content: center;
  gap: 4px;
  margin-top: 4px;
}
.counts button {
  min-width: 30px;
  height: 28px;
  border-radius: 14px;
  font: 600 14px/1 var(--text-font);
  color: var(--on-deck-soft);
  cursor: pointer;
}
.counts button:hover {
  color: var(--on-deck);
}
.counts button[aria-pressed='true'] {
  color: var(--keep);
  box-shadow: inset 0 0 0 1.5px var(--keep);
}
@media (pointer: coarse) {
  .counts button,
  .dice {
    min-height: 40px;
    min-width: 40px;
  }
}
/* A tablet held upright: the tape has a row of its own. */
@media (max-width: 1000px) {
  .deck {
    height: auto;
    flex-wrap: wrap;
    gap: 6px 8px;
    padding: 8px 12px;
  }
  .standing {
    width: 284px;
  }
  .deck > :deep(.tape) {
    order: 1;
    flex: 1 1 400px;
    height: 64px;
  }
  .ahead {
    order: 2;
  }
  .moves {
    margin-right: auto;
  }
  .moves {
    width: 102px;
  }
  .keeping {
    width: 168px;
  }
  .keep,
  .record {
    font-size: 14px;
  }
}
</style>

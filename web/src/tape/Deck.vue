<script setup lang="ts">
/** The foot of every working screen: play, where the music is, what holds for the pattern, the tape, and keeping. */
import { computed, ref } from 'vue'

import type { Schemas, Score } from '@/api/client'
import { isSame } from '@/api/same'
import { patternWords, provideWords } from '@/hands/words'
import { useFrames } from '@/page/useFrames'
import { useShortcuts } from '@/page/useShortcuts'
import SentenceLine from '@/sentence/SentenceLine.vue'
import { useLastDrawn } from '@/engine/useLastDrawn'
import { useRendering } from '@/engine/useRendering'
import { randomNumber } from '@/work/document'
import { useLive } from '@/work/live'
import { usePiece } from '@/work/piece'
import { useMoves } from '@/playing/moves'
import { useOrder } from '@/playing/order'
import { learns } from '@/hands/learn'
import { useKeeping } from '@/playing/keeping'
import { useLoops } from '@/playing/loops'
import { usePlaying } from '@/playing/playing'
import { useTransport } from '@/playing/transport'
import { barOf, beatOf } from '@/sound/time'
import AwayLine from './AwayLine.vue'
import KeepHands from './KeepHands.vue'
import TapeStrip from './TapeStrip.vue'

interface Spoken {
  readonly score: Score
  readonly dice: number
  readonly window: Schemas['Window']
}
const piece = usePiece()
const playing = usePlaying()
const transport = useTransport()
const loops = useLoops()
const keeping = useKeeping()
const live = useLive()
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
const { drawnBefore, keepDrawn } = useLastDrawn('deck')
const { rendering } = useRendering(spokenOf, drawnBefore)
keepDrawn(rendering)
const standing = (name: string) => rendering.value?.standing.filter(({ setting }) => setting === name) ?? []

provideWords(patternWords())
function newDice() {
  const dice = randomNumber(10_000)
  piece.editPattern(`new dice ${dice}`, (pattern) => ({ ...pattern, dice }))
}

const place = ref('1 : 1')
function tell() {
  if (!rendering.value) return
  const { bar_ticks, beat_ticks } = rendering.value
  const loop = loops.looping ? loops.player : null
  const tick = loop?.nowTick ?? playing.player?.nowTick ?? 0
  place.value = `${(barOf(tick, bar_ticks) + 1).toLocaleString('en')} : ${beatOf(tick, bar_ticks, beat_ticks) + 1}`
}
useFrames(
  tell,
  () => transport.isSounding,
  () => [playing.player, loops.looping, rendering.value],
  30,
)

useShortcuts({ 'Shift+r': { says: 'Record moves, or not', act: moves.toggle } })
</script>

<template>
  <AwayLine />
  <footer class="deck">
    <button
      v-tip="`${transport.isSounding ? 'Stop' : 'Play from bar 1'} (Space)`"
      type="button"
      class="play"
      data-hint="play"
      :class="{ stop: transport.isSounding }"
      :aria-label="transport.isSounding ? 'Stop' : 'Play from bar 1'"
      :disabled="playing.isStarting"
      v-bind="learns({ kind: 'act', act: 'play' })"
      @click="transport.isSounding ? transport.stop() : playing.play()"
    >
      <svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true">
        <rect v-if="transport.isSounding" x="5" y="5" width="14" height="14" rx="2" fill="currentColor" />
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
        <span v-if="live.clockTempo === null"
          ><SentenceLine owner="Piece" :parts="standing('tempo')" /> BPM</span
        >
        <span v-else v-tip="'The tempo of the clock from outside: see Ports. The piece keeps its own.'"
          ><b>{{ live.clockTempo }}</b> BPM by clock</span
        >
        <span><SentenceLine owner="Pattern" :parts="standing('meter')" /></span>
        <span>
          swing
          <SentenceLine owner="Piece" :parts="standing('swing')" />
        </span>
      </div>
    </div>
    <button
      v-tip="'Records every control that you move while the music plays, and plays the moves again (Shift+R)'"
      type="button"
      class="moves"
      :class="{ on: moves.isOn, running: moves.isOn && playing.isPlaying }"
      :aria-pressed="moves.isOn"
      @click="moves.toggle"
    >
      <span aria-hidden="true" class="disc" />
      <span class="visually-hidden">Record </span><span class="named">moves</span>
      <small>{{ moves.isOn ? (playing.isPlaying ? 'recording' : 'armed') : 'off' }}</small>
    </button>
    <TapeStrip
      :tape="playing.tape"
      :is-playing="playing.isPlaying"
      :kept-bars="keeping.bars"
      @keep="(chosen) => keeping.keep(chosen.to - chosen.from, chosen)"
    />
    <KeepHands />
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
.play:focus-visible {
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
@media (pointer: coarse) {
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
  .moves {
    margin-right: auto;
    width: 102px;
  }
}
</style>

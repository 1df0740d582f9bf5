<script setup lang="ts">
/** What beads tell: each drawn as the lattice draws it. */
import type { LanePicture } from '@/api/client'
import { type TimeScale } from '@/lattice/geometry/scale'
import { threadOf } from '@/lattice/geometry/thread'
import { inkOf } from '@/theme/inks'

const STEP = 100
const HEIGHT = 48
const scale: TimeScale = { firstTick: 0, endTick: 2 * STEP, width: 96 }

/** A lane of two steps with one hit, or as `fields` say. */
function two(fields: Partial<LanePicture>): LanePicture {
  return {
    id: '', silent: false, steps: 2, first_step: 0, last_step: 1, cycle_hits: [0], step_ticks: STEP, cycle_ticks: 2 * STEP, cycle_length: '',
    is_gapped: false, follows: null, kept: null, away: null, starts: [0, STEP], numbers: [0, 1], hits: [0], sounds: [1], velocities: [100], lengths: [STEP],
    chances: [100], onsets: [], ratchets: [], accents: [], ties: [], octaves: [], letters: [], covered: [], louder: [], bursts: [], held: [], values: [], painted_on: null,
    pitches: [], degrees: [], staff: null, folded: 0, tone: null, port: '', plays_on: 1,
    cycle_starts: [], cycle_ends: [], draws: [], edited: [], ruled: [], sentence: { parts: [] }, busy: null, movements: [], ...fields,
  } // prettier-ignore
}
const both = {
  hits: [0, 1],
  sounds: [1, 1],
  velocities: [100, 100],
  lengths: [STEP, STEP],
  chances: [100, 100],
}
const burst = {
  place: 0,
  start: 0,
  end: 2 * STEP,
  notes: [0, 50, 100, 150],
  velocities: [60, 75, 95, 120],
  sounds: true,
}
const TOLD: readonly (readonly [string, Partial<LanePicture>])[] = [
  ['a hit, and a step that rests', {}],
  ['velocity: the larger, the harder', { ...both, velocities: [120, 20] }],
  ['chance: filled so far', { ...both, chances: [75, 25] }],
  ['skipped this time by the dice', { ...both, sounds: [1, 0] }],
  ['an accent', { accents: [1] }],
  ['a ratchet', { ratchets: [4] }],
  ['its length', { lengths: [160] }],
  ['tied to the next hit', { ...both, ties: [1, 0] }],
  ['nudged off its step', { onsets: [30] }],
  ['linked: sound together or not', { ...both, letters: ['a', 'a'] }],
  ['an octave higher', { octaves: [1] }],
  ['a burst in its place', { hits: [], bursts: [burst] }],
  ['turned by hand', { edited: [0] }],
] // prettier-ignore
const legend = TOLD.map(([says, fields]) => ({ says, thread: threadOf(two(fields), scale, HEIGHT / 2 - 2) }))
</script>

<template>
  <ul class="legend" aria-label="What beads tell">
    <li v-for="{ says, thread } in legend" :key="says">
      <svg
        class="inked"
        :width="scale.width"
        :height="HEIGHT"
        :style="{ color: inkOf(5) }"
        aria-hidden="true"
      >
        <path class="line" :d="thread.line" />
        <path class="solid" :d="thread.rests" />
        <path class="tail" :d="thread.tails" />
        <g v-for="(beads, at) in thread.beads" :key="at" :class="{ skipped: !beads.sounds }">
          <path class="solid" :d="beads.solid" />
          <path class="solid" :d="beads.fill" />
          <path class="stroke" :d="beads.ring" />
          <path class="stroke" :d="beads.caps" />
        </g>
        <path class="notch" :d="thread.notches" />
        <text v-for="tag in thread.tags" :key="tag.x" :x="tag.x" :y="tag.y">{{ tag.text }}</text>
      </svg>
      {{ says }}
    </li>
  </ul>
</template>

<style scoped>
.legend {
  list-style: none;
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  column-gap: 14px;
  margin-bottom: 14px;
  font-size: 14px;
  line-height: 1.2;
}
li {
  display: flex;
  align-items: center;
  gap: 6px;
  height: 48px;
}
svg {
  flex: none;
}
.line {
  stroke: currentColor;
  opacity: 0.6;
}
.solid {
  fill: currentColor;
}
.stroke {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
  stroke-linecap: round;
}
.tail {
  fill: none;
  stroke: currentColor;
  stroke-width: 5;
  stroke-linecap: round;
  opacity: 0.28;
}
.skipped {
  opacity: 0.32;
}
.notch {
  fill: var(--ink);
}
text {
  font: 650 11px/1 var(--text-font);
  text-anchor: middle;
  fill: var(--ink);
}
</style>

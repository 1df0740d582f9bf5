<script setup lang="ts">
/** Keys in place of the bench: a keyboard and pads, what they hold, and playing into the chosen lane. */
import { computed, useTemplateRef } from 'vue'

import { HeldKey } from '@/api/limits.json'
import type { Bench, Lane, LanePicture, Schemas } from '@/api/client'
import { useHands } from '@/hands/useHands'
import { useOffer } from '@/page/useLists'
import { onArrival } from '@/engine/onArrival'
import { melody } from '@/engine/melody'
import { engine } from '@/engine/engine'
import { useFocusBack } from '@/page/useFocusBack'
import { useNotices } from '@/page/notices'
import type { Patch } from '@/work/document'
import { usePlaying } from '@/playing/playing'
import { useTrying } from '@/playing/useTrying'
import { inkOf } from '@/theme/inks'
import { usePiece } from '@/work/piece'
import KeyBoard from './KeyBoard.vue'
import { REACHED } from './keyboard'
import { useKeys } from './useKeys'
import { useKeysThatFit } from './useKeysThatFit'
import { useRecording, type Into } from './useRecording'

const props = defineProps<{
  lane: Lane
  /** All lanes that are chosen: keys reach these. */
  lanes: readonly Lane[]
  /** What the pools of those lanes hold, as the engine says. */
  heldByLanes: readonly number[]
  picture: LanePicture | undefined
  bench: Bench | undefined
  inScale: Schemas['Scale']
}>()
const cursor = defineModel<number | null>('cursor', { required: true })
const emit = defineEmits<{ close: [] }>()
const { edits, pictured } = useHands()
const patch = (label: string, fields: Patch) => edits.patch(props.lane, label, fields)

const notices = useNotices()
useFocusBack()
const playing = usePlaying()
const trying = useTrying()
const piece = usePiece()
const place = { get: () => cursor.value ?? 0, set: (step: number) => void (cursor.value = step) }
const kit = computed(() => piece.document?.kit ?? null)
/** Whether keys strike the kit's voices: on its lanes, and on those that play the whole kit. */
const strikesKit = computed(() => props.picture !== undefined && !props.picture.tone)
const voiceNames = computed(() => new Map(kit.value?.voices.map(({ id, name }) => [id, name])))
/** The lane that a key is played into: of the kit, the one that has the key's voice, if there is one. */
async function laneOf(pitch: number): Promise<Lane> {
  const { lane } = props
  const voice = (await pictured(lane.id))?.staff ? null : await voiceOf(pitch)
  return piece.lanes.find((one) => one.voice === voice && !one.clip) ?? lane
}
const recording = useRecording(
  () => props.lane,
  laneOf,
  place,
  async (laneId) => (await pictured(laneId))?.steps ?? Infinity,
)
const { into, isOver, keepsNudges } = recording
const keys = useKeys(
  () => props.lanes,
  pictured,
  recording,
  async (pitch, hard) => {
    const id = await voiceOf(pitch)
    const voice = kit.value?.voices.find((one) => one.id === id)
    if (voice) void trying.tryVoice(voice, undefined, hard)
  },
)
const { velocity, down, isSustained, stopPhrase } = keys
// Kits lie below the middle of a keyboard.
if (strikesKit.value) keys.turnOctave(-1)

/** All keys, by their pitches, as the scale spells and marks them. */
const all = useOffer(
  () => ['keyboard', props.inScale, piece.document?.kit],
  () => melody.keyboard(props.inScale, piece.document?.kit ?? null),
)
const voiceOf = async (pitch: number) => (await onArrival(() => all.value))?.[pitch]?.voice
const shown = useKeysThatFit(useTemplateRef('board'), () =>
  (all.value ?? []).slice(keys.firstKey.value, keys.firstKey.value + REACHED),
)
const nameOf = (pitch: number) => all.value?.[pitch]?.name ?? ''
const held = computed(() =>
  [...new Set([...props.heldByLanes, ...down.value])].sort((one, other) => one - other),
)
/** The lanes that keys reach. */
const who = computed(() => (props.lanes.length > 1 ? `${props.lanes.length} lanes` : props.lane.name))
const arpeggio = computed(() => props.lane.arpeggio ?? null)
const pool = computed(() => (arpeggio.value?.pool.kind === 'held' ? arpeggio.value.pool : null))
const latch = computed(() => pool.value?.latch ?? 'off')
const LATCHES = [
  ['off', 'off', 'Notes end when their keys are let go'],
  ['replace', 'replace', 'Notes stay until a new chord takes their place'],
  ['add', 'add', 'Notes stay, and new ones join them'],
] as const
/** The engine says what is held under another latch: what one has replaced does not come back with the next. */
const setLatch = (to: (typeof LATCHES)[number][0], label = `latch ${to}`) =>
  keys.changeLatch(async () => {
    try {
      const found = await engine.alternatives({ lane: props.lane.id, setting: 'arpeggio', word: 'pool' })
      const chosen = found.find(({ key }) => key === to)
      if (chosen) patch(label, chosen.patch)
    } catch (reason) {
      notices.complain(reason)
    }
  })
const makeArpeggio = () => setLatch('replace', 'arpeggio of held keys')

const INTO: readonly (readonly [Into, string, string])[] = [
  ['steps', 'step by step', 'Each key enters its pitch on the step under the cursor and goes on to the next'],
  ['loop', 'with the loop', 'Play along: each key lands on the step nearest to it'],
]
const isMelodic = computed(() => Boolean(props.picture?.staff))
</script>

<template>
  <section class="keys" data-focus-back aria-label="Keyboard" :style="{ '--lane-ink': inkOf(lane.ink) }">
    <div class="set">
      <div class="title">
        <span class="named">Keyboard</span> plays {{ who }}
        <button
          v-tip="'Close the keyboard (Escape)'"
          type="button"
          class="quiet-button close"
          @click="emit('close')"
        >
          close
        </button>
      </div>
      <div class="rows">
        <div class="field">
          <span class="label">octave</span>
          <span class="steps">
            <button type="button" class="pill" aria-label="An octave lower" @click="keys.turnOctave(-1)">
              −
            </button>
            <b data-test="octave">{{ shown[0]?.name }} to {{ shown.at(-1)?.name }}</b>
            <button type="button" class="pill" aria-label="An octave higher" @click="keys.turnOctave(1)">
              +
            </button>
          </span>
        </div>
        <label class="field">
          <span class="label">velocity</span>
          <span class="slide"
            ><input
              v-model.number="velocity"
              class="slider"
              type="range"
              v-bind="HeldKey.velocity"
              aria-label="Velocity of the computer's keys"
            /><b>{{ velocity }}</b></span
          >
        </label>
        <div v-if="pool" class="field" role="group" aria-label="Latch">
          <span class="label">latch</span>
          <span class="steps">
            <button
              v-for="[key, said, explains] in LATCHES"
              :key="key"
              v-tip="explains"
              type="button"
              class="pill"
              :aria-pressed="latch === key"
              @click="setLatch(key)"
            >
              {{ said }}
            </button>
          </span>
        </div>
        <div v-else-if="isMelodic && !arpeggio" class="field">
          <span class="label">chords</span>
          <button type="button" class="word-button" @click="makeArpeggio">arpeggio of held keys</button>
        </div>
        <div v-else-if="strikesKit" class="field says">
          Keys and pads strike the voices of the kit on their notes.
        </div>
        <div class="field">
          <span class="label">held on</span>
          <span class="steps">
            <button
              v-tip="'The sustain pedal: keys go on when they are let go'"
              type="button"
              class="pill"
              :aria-pressed="isSustained"
              @click="keys.sustain(!isSustained)"
            >
              sustain
            </button>
            <button
              v-tip="'A recorded phrase, sent by the simulated MIDI keyboard that comes along'"
              type="button"
              class="pill"
              :aria-pressed="stopPhrase !== null"
              @click="keys.togglePhrase"
            >
              a phrase
            </button>
          </span>
        </div>
      </div>
    </div>

    <KeyBoard
      ref="board"
      :keys="keys"
      :all="all ?? []"
      :shown="shown"
      :held="held"
      :strikes-kit="strikesKit"
      :voices="voiceNames"
    />

    <div class="told">
      <div>
        <span class="label">held</span>
        <div class="named held-notes" data-test="held" aria-live="polite">
          {{ held.map(nameOf).join(' ') || 'nothing' }}
        </div>
      </div>
      <div v-if="bench?.pool" class="pool">
        {{ bench.pool }}
        <button
          v-if="bench.fits"
          v-tip="'The notes begin again with each cycle of the lane'"
          type="button"
          class="word-button"
          @click="patch('its notes begin with each cycle', bench.fits)"
        >
          fit the pool to the hits
        </button>
      </div>
      <button
        v-if="held.length"
        v-tip="`Let go of all that ${who} holds: keys, pedal, and what latches keep`"
        type="button"
        class="word-button"
        @click="keys.letAllGo"
      >
        clear the held notes
      </button>
      <div v-if="!arpeggio" class="play-in" role="group" aria-label="Play into the lane">
        <span class="label">play into {{ lane.name }}</span>
        <div class="steps">
          <button
            v-for="[key, said, explains] in INTO"
            :key="key"
            v-tip="explains"
            type="button"
            class="pill"
            :class="{ act: into === key }"
            :aria-pressed="into === key"
            @click="recording.choose(key)"
          >
            {{ said }}
          </button>
        </div>
        <div v-if="into === 'steps'" class="steps">
          <span>step {{ (cursor ?? 0) + 1 }}</span>
          <button type="button" class="pill" @click="recording.enter('rest')">rest</button>
          <button
            v-tip="'The note before lasts over this step'"
            type="button"
            class="pill"
            @click="recording.enter('tie')"
          >
            tie
          </button>
        </div>
        <div v-else-if="into === 'loop'" class="steps">
          <button type="button" class="pill" :aria-pressed="!isOver" @click="isOver = false">add</button>
          <button type="button" class="pill" :aria-pressed="isOver" @click="isOver = true">over</button>
          <button
            v-tip="'How far off its step a key was is kept'"
            type="button"
            class="pill"
            :aria-pressed="keepsNudges"
            @click="keepsNudges = !keepsNudges"
          >
            keep nudges
          </button>
          <span v-if="!playing.isPlaying">press play, then play along</span>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.keys {
  grid-column: 1 / -1;
  grid-row: 6;
  display: grid;
  grid-template-columns: 268px minmax(0, 1fr) 236px;
  gap: 14px;
  height: 236px;
  padding: 10px 14px 10px 16px;
  background: var(--card);
  border-top: 1.5px solid var(--ink);
  border-left: 8px solid var(--lane-ink);
  font-size: 14px;
  color: var(--soft-ink);
  user-select: none;
}
.title .named {
  font-size: 19px;
  color: var(--ink);
  margin-right: 4px;
}
.close {
  float: right;
}
.rows {
  display: grid;
  gap: 7px;
  margin-top: 8px;
}
.field {
  display: grid;
  grid-template-columns: 58px 1fr;
  align-items: center;
}
.field.says {
  display: block;
}
.label {
  font-size: 13px;
}
.steps {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 4px;
}
.steps b,
.slide b {
  color: var(--ink);
  font-family: var(--name-font);
  font-size: 15px;
}
.slide {
  display: flex;
  align-items: center;
  gap: 8px;
}
.slide input {
  flex: 1;
  min-width: 0;
}
.pill.act[aria-pressed='true'] {
  background: var(--act-text);
  color: #fff;
}
.told {
  display: grid;
  align-content: start;
  gap: 8px;
}
.held-notes {
  font-size: 19px;
  color: var(--ink);
  min-height: 26px;
}
.play-in {
  display: grid;
  gap: 4px;
}
@media (max-width: 1000px) {
  .keys {
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
    height: auto;
    max-height: 46vh;
    overflow-y: auto;
  }
  .rows {
    grid-template-columns: 1fr 1fr;
    gap: 0 14px;
    margin-top: 0;
  }
  .keys > :nth-child(2) {
    height: 140px;
  }
  .told {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 16px;
  }
}
</style>

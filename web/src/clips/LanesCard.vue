<script setup lang="ts">
/** A clip as lanes: what steps fit its notes, how far they lie off, and the shorter ways to say them. */
import { ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import { clipsApi } from '@/api/clips'
import type { Schemas } from '@/api/client'
import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

const props = defineProps<{ clip: { id: number; name: string } }>()
const emit = defineEmits<{ close: [] }>()
const notices = useNotices()
const piece = usePiece()
const router = useRouter()
const offers = shallowRef<Schemas['LaneOffer'][] | null>(null)
/** What of the clip no lane has. */
const leftOut = ref('')
/** Its scale and chords, where it has pitches, and how sure that is. */
const guessed = shallowRef<Schemas['ClipGuess'] | null>(null)
const problem = ref('')
const shorter = ref(new Set<number>())

// Of a long clip it takes a while: closing it asks no further.
const asking = useNewest()

async function load() {
  try {
    const answer = await asking.ask((signal) => clipsApi.lanes(props.clip.id, signal))
    if (!answer) return
    offers.value = answer.offers
    leftOut.value = answer.left_out.join(', ')
    guessed.value = await clipsApi.guess(props.clip.id)
    shorter.value = new Set(offers.value.flatMap((offer, at) => (offer.this_is ? [at] : [])))
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason)
  }
}
void load()
function turn(at: number) {
  const next = new Set(shorter.value)
  if (!next.delete(at)) next.add(at)
  shorter.value = next
}

const asPiece = () =>
  notices.attempt(async () => {
    const made = await clipsApi.asPiece(props.clip.id, [...shorter.value])
    emit('close')
    await router.push(`/lattice/${made}`)
  })
async function asPattern() {
  const { document, id } = piece
  if (!document) return
  await notices.attempt(async () => {
    const taken = new Set(piece.patterns.map((pattern) => pattern.id))
    let number = piece.patterns.length + 1
    while (taken.has(`pattern-${number}`)) number++
    const patternId = `pattern-${number}`
    const made = await clipsApi.asPattern(props.clip.id, [...shorter.value], patternId, document)
    piece.edit(`Lanes of “${props.clip.name}”`, (whole) => ({
      ...whole,
      patterns: [...whole.patterns, made],
    }))
    piece.choosePattern(patternId)
    emit('close')
    await router.push(`/lattice/${id}`)
  })
}
</script>

<template>
  <div class="card lanes" role="group" :aria-label="`Lanes of ${clip.name}`">
    <h2>“{{ clip.name }}” as lanes</h2>
    <p v-if="problem" class="alarm">{{ problem }}</p>
    <p v-else-if="!offers">Looking for steps that fit …</p>
    <template v-else>
      <p v-if="guessed" data-test="guess">Heard: {{ guessed.says }}.</p>
      <p v-if="leftOut" class="alarm">Left out: {{ leftOut }}.</p>
      <table>
        <thead>
          <tr>
            <th>lane</th>
            <th>step</th>
            <th>notes lie off</th>
            <th>or, shorter</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(offer, at) in offers" :key="offer.lane.id">
            <td>{{ offer.lane.name }}</td>
            <td>{{ offer.step }}</td>
            <td :title="offer.remarks.join('; ')">
              {{
                offer.worst_off_percent
                  ? `${offer.mean_off_percent} %, at most ${offer.worst_off_percent} %`
                  : 'not at all'
              }}
              <small v-if="offer.remarks.length">{{ offer.remarks.join('; ') }}</small>
            </td>
            <td>
              <button
                v-if="offer.this_is"
                type="button"
                class="word-button"
                :aria-pressed="shorter.has(at)"
                @click="turn(at)"
              >
                {{ shorter.has(at) ? '✓ ' : '' }}this is {{ offer.this_is }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <p class="acts">
      <button v-if="offers" type="button" class="word-button strong" @click="asPiece">As a new piece</button>
      <button v-if="offers && piece.document" type="button" class="word-button" @click="asPattern">
        As a pattern of {{ piece.document.name }}
      </button>
      <button type="button" class="quiet-button" @click="emit('close')">Cancel</button>
    </p>
  </div>
</template>

<style scoped>
.lanes {
  display: grid;
  gap: 12px;
  padding: 18px 22px;
  min-width: 620px;
  max-height: 80vh;
  overflow-y: auto;
}
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 500;
  color: var(--soft-ink);
}
td,
th {
  padding: 4px 16px 4px 0;
  font-size: 14px;
}
small {
  display: block;
  color: var(--act-text);
}
.alarm {
  color: var(--act-text);
}
.acts {
  display: flex;
  gap: 8px;
}
</style>

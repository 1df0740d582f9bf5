<script setup lang="ts">
/** What is kept of the order: one file, a file a row, clips. */
import { ref } from 'vue'
import { useRouter } from 'vue-router'

import { PLAIN_EXPORT } from '@/api/clips'
import { takesApi } from '@/api/takes'
import { orderApi } from '@/engine/order'
import { useLongWork } from '@/page/longWork'
import { useNotices } from '@/page/notices'
import { saveFile } from '@/page/saveFile'
import { useOrder } from '@/playing/order'
import { usePiece } from '@/work/piece'

const props = defineProps<{ chosen: number }>()
const MOST_BARS = 64
const router = useRouter()
const piece = usePiece()
const order = useOrder()
const notices = useNotices()
const work = useLongWork()
const isOpen = ref(false)
const hasMoves = ref(false)

/** What only asks can be given up; what stores is stored. */
function during(saying: string, act: (signal: AbortSignal) => Promise<unknown>, canCancel = false) {
  isOpen.value = false
  return work.during(saying, act, { canCancel })
}
const exportAs = (of: 'whole' | 'rows') => {
  const asked = async (signal: AbortSignal) => {
    if (!piece.document) return
    const how = { ...PLAIN_EXPORT, moves: hasMoves.value }
    const { name, blob } = await orderApi.file(piece.document, of, how, signal)
    saveFile(blob, name)
  }
  return during('The order is being written …', asked, true)
}
/** Takes of a row: by other dice, as it plays in the order. */
const throwTakes = () =>
  during('The row is being thrown …', async () => {
    const playing = order.playingOf(order.placed(props.chosen))
    const pattern = piece.patterns.find(({ id }) => id === playing?.patternId)
    if (!playing || !pattern || !piece.document) return
    const { sheet } = await takesApi.throw({
      piece_id: piece.id, piece: piece.document.name, pattern: `${props.chosen + 1} ${pattern.name}`, score: playing.score,
      dice: playing.dice, row: playing.row ?? null, first_bar: 0, bars: Math.min(MOST_BARS, playing.score.bars), lanes: null,
      vary: 0, count: 8,
    }) // prettier-ignore
    await router.push(`/takes/${sheet.id}`)
  })
const keep = (of: 'whole' | 'rows', rows: number[] | null = null) =>
  during('The order is being kept …', async () => {
    if (!piece.document) return
    const clips = await orderApi.keep(piece.document, of, rows)
    notices.say(
      `${clips.length} ${clips.length === 1 ? 'clip is' : 'clips are'} kept in the set “${piece.document.name}”.`,
    )
  })
</script>

<template>
  <button type="button" class="word-button keep" :disabled="!order.rows.length" aria-label="Keep the order">
    Keep …
    <v-menu v-model="isOpen" activator="parent" location="bottom end" :close-on-content-click="false">
      <div class="card acts" role="dialog" aria-label="Keep and export">
        <p class="named">The order</p>
        <button type="button" class="quiet-button" @click="exportAs('whole')">
          Export as one MIDI file, a marker a row
        </button>
        <button type="button" class="quiet-button" @click="exportAs('rows')">
          Export a MIDI file for each row
        </button>
        <label class="moves"><input v-model="hasMoves" type="checkbox" /> movements as controllers too</label>
        <button type="button" class="quiet-button" @click="keep('whole')">Keep it as one clip</button>
        <button type="button" class="quiet-button" @click="keep('rows')">Keep a clip of each row</button>
        <button type="button" class="quiet-button" @click="keep('rows', [props.chosen])">
          Keep row {{ chosen + 1 }} as a clip
        </button>
        <button type="button" class="quiet-button" @click="throwTakes">
          Throw 8 takes of row {{ chosen + 1 }}
        </button>
      </div>
    </v-menu>
  </button>
</template>

<style scoped>
.keep {
  margin-left: auto;
  background: var(--keep);
  border-color: var(--keep);
  color: #2b2440;
}
.keep:disabled {
  opacity: 0.45;
}
.acts {
  display: grid;
  justify-items: start;
  gap: 2px;
  padding: 12px 16px;
}
.acts .quiet-button {
  min-height: 36px;
}
.moves {
  display: flex;
  gap: 8px;
  padding: 4px 10px;
  font-size: 15px;
}
</style>

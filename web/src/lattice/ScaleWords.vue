<script setup lang="ts">
/** The scale that degrees and numerals are counted in: the piece's, or the pattern's own. */
import type { Part, Schemas } from '@/api/client'
import { melody } from '@/engine/melody'
import { patternWords, provideWords } from '@/hands/words'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import SentenceLine from '@/sentence/SentenceLine.vue'

const props = defineProps<{
  parts: readonly Part[]
  /** Whether the pattern has a scale of its own. */
  isOwn: boolean
}>()
const piece = usePiece()
const notices = useNotices()
provideWords({
  ...patternWords(),
  choose: (_setting, _word, { text, patch }) => take(text, patch['scale'] as Schemas['Scale']),
})

/** The engine reads the whole piece anew: where numerals have no place in a scale, their chords get names. */
async function take(text: string, scale: Schemas['Scale']): Promise<void> {
  const only = props.isOwn ? (piece.pattern?.id ?? null) : null
  await notices.attempt(async () => {
    await piece.editAsAnswered(`Scale: ${text}`, (document) => melody.rescale(document, scale, only))
  })
}
function own() {
  const label = props.isOwn ? 'Scale: the piece’s' : 'Scale: the pattern’s own'
  piece.editPattern(label, (pattern) => ({
    ...pattern,
    scale: props.isOwn ? null : (piece.document?.scale ?? null),
  }))
}
</script>

<template>
  <div class="scale" data-test="scale">
    <SentenceLine owner="Pattern" :parts="parts" />
    <button
      v-tip="isOwn ? 'Let the pattern have the piece’s scale again' : 'Give this pattern a scale of its own'"
      type="button"
      class="quiet-button"
      @click="own"
    >
      {{ isOwn ? 'of this pattern' : 'of the piece' }}
    </button>
  </div>
</template>

<style scoped>
.scale {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 14px;
  color: var(--soft-ink);
}
</style>

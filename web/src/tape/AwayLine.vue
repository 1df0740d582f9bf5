<script setup lang="ts">
/** What goes on without the server: which bars loop and why, and what is heard when it is back. */
import { ref } from 'vue'

import { isAway } from '@/api/policy'
import { useFrames } from '@/page/useFrames'
import { useReach } from '@/page/reach'
import { usePlaying } from '@/playing/playing'
import { barsSaid } from '@/sound/time'
import { usePiece } from '@/work/piece'

const playing = usePlaying()
const piece = usePiece()
const reach = useReach()
const message = ref('')

const whyOf = (trouble: unknown) =>
  reach.isAway || isAway(trouble)
    ? 'The server is away'
    : trouble instanceof Error
      ? trouble.message.replace(/\.$/, '')
      : ''
const barsOf = ({ first, end }: { first: number; end: number }) => barsSaid(first, end - first)
function tell() {
  const player = playing.isPlaying ? playing.player : null
  const why = whyOf(player?.trouble)
  if (!why) return (message.value = '')
  const looping = player?.loopingBars
  const goesOn = looping
    ? `: ${barsOf(looping)} loop until it is back.`
    : player
      ? `: ${player.readyBars} bars are ready to play.`
      : ': what you do is kept here and sent when it is back.'
  const isBehind = player?.isBehind ?? piece.saveState === 'unreachable'
  const then = looping ? 'then' : 'when it is back'
  message.value = `${why}${goesOn}${isBehind ? ` Your last changes are drawn and heard ${then}.` : ''}`
}
useFrames(
  tell,
  () => playing.isPlaying,
  () => [reach.isAway, playing.isPlaying, piece.saveState],
  4,
)
</script>

<template>
  <p v-if="message" class="away" role="status" data-test="away">{{ message }}</p>
</template>

<style scoped>
.away {
  flex: none;
  margin: 0;
  padding: 5px 16px;
  background: var(--keep);
  color: #2b2440;
  font-size: 15px;
  font-variant-numeric: tabular-nums;
}
</style>

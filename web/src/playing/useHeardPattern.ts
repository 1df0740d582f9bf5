/** Which pattern is heard, and which waits for its moment; choosing the one that waits again calls it off. */
import { ref } from 'vue'

import { useFrames } from '@/page/useFrames'
import { usePiece } from '@/work/piece'
import { usePlaying } from './playing'

/** Choose a pattern by hand; the one that waits for its moment is called off. */
export function choosePattern(id: string) {
  const { patternId = '', waitingFor = '' } = usePlaying().player ?? {}
  usePiece().choosePattern(waitingFor === id && patternId ? patternId : id)
}

export function useHeardPattern() {
  const piece = usePiece()
  const playing = usePlaying()
  const heard = ref('')
  const waiting = ref('')
  useFrames(
    () => {
      heard.value = playing.isPlaying ? (playing.player?.patternId ?? '') : ''
      waiting.value = playing.isPlaying ? (playing.player?.waitingFor ?? '') : ''
    },
    () => playing.isPlaying,
    () => [playing.player, piece.pattern?.id],
    15,
  )
  const isWaiting = (id: string) => id === waiting.value && id !== heard.value
  return { heard, waiting, isWaiting, choose: choosePattern }
}

/** What was drawn last, to be seen where the page opens without the server. */
import { watchDebounced } from '@vueuse/core'
import type { Ref } from 'vue'

import type { Rendering } from '@/api/client'
import { keepLast, lastOf } from '@/work/last'
import { usePiece } from '@/work/piece'

interface Drawn {
  readonly pieceId: number | null
  readonly patternId: string | undefined
  readonly rendering: Rendering
}
const QUIET_MS = 1500

export function useLastDrawn() {
  const piece = usePiece()
  async function drawnBefore(): Promise<Rendering | null> {
    const drawn = await lastOf<Drawn>('picture')
    return drawn && drawn.pieceId === piece.id && drawn.patternId === piece.pattern?.id
      ? drawn.rendering
      : null
  }
  const keepDrawn = (rendering: Readonly<Ref<Rendering | null>>) =>
    watchDebounced(
      rendering,
      (now) => {
        const { id: pieceId, pattern } = piece
        if (now) void keepLast('picture', { pieceId, patternId: pattern?.id, rendering: now } satisfies Drawn)
      },
      { debounce: QUIET_MS },
    )
  return { drawnBefore, keepDrawn }
}

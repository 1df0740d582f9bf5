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

/** `place`: where it is drawn. */
export function useLastDrawn(place: string) {
  const piece = usePiece()
  async function drawnBefore(): Promise<Rendering | null> {
    const drawn = await lastOf<Drawn>(`picture of ${place}`)
    return drawn && drawn.pieceId === piece.id && drawn.patternId === piece.pattern?.id
      ? drawn.rendering
      : null
  }
  const keepDrawn = (rendering: Readonly<Ref<Rendering | null>>) =>
    watchDebounced(
      rendering,
      (now) => {
        const { id: pieceId, pattern } = piece
        if (now)
          void keepLast(`picture of ${place}`, {
            pieceId,
            patternId: pattern?.id,
            rendering: now,
          } satisfies Drawn)
      },
      { debounce: QUIET_MS },
    )
  return { drawnBefore, keepDrawn }
}

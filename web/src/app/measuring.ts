/** A window for instruments that measure the running application: what was scheduled, how loud it is, how voices sound. */
import type { Score } from '@/api/client'
import { usePiece } from '@/stores/piece'
import { usePlaying } from '@/stores/playing'
import type { TapeNote } from '@/tape/tape'

export interface Measuring {
  /** The schedule log: all that is on the tape, stretch by stretch. */
  log(): { fromTick: number; nowTick: number; notes: TapeNote[] }[]
  /** What the table holds. */
  score(): { score: Score | null; dice: number }
  /** Root mean square of what leaves the speakers now. */
  level(): Promise<number>
  /** The samples of every voice of the kit. */
  voices(): Promise<Record<string, number[]>>
}

declare global {
  interface Window {
    jolly?: Measuring
  }
}

export function exposeForMeasuring() {
  const playing = usePlaying()
  const piece = usePiece()
  window.jolly = {
    log: () =>
      (playing.player?.tape.stretches ?? []).map(({ fromTick, nowTick, notes }) => ({
        fromTick,
        nowTick,
        notes,
      })),
    score: () => ({ score: piece.score, dice: piece.dice }),
    level: async () => (await playing.ready()).level(),
    voices: async () => {
      const { kit } = await playing.ready()
      return Object.fromEntries([...kit].map(([id, buffer]) => [id, [...buffer.getChannelData(0)]]))
    },
  }
}

/** A window for instruments that measure the running application: what was scheduled, how loud it is, how voices sound. */
import { usePlaying } from '@/stores/playing'
import type { TapeNote } from '@/tape/tape'

export interface Measuring {
  /** The schedule log: all that is on the tape, stretch by stretch. */
  log(): { fromTick: number; nowTick: number; notes: TapeNote[] }[]
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
  window.jolly = {
    log: () =>
      (playing.player?.tape.stretches ?? []).map(({ fromTick, nowTick, notes }) => ({
        fromTick,
        nowTick,
        notes,
      })),
    level: async () => (await playing.ready()).level(),
    voices: async () => {
      const { kit } = await playing.ready()
      return Object.fromEntries([...kit].map(([id, buffer]) => [id, [...buffer.getChannelData(0)]]))
    },
  }
}

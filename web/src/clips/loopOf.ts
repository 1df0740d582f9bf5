/** Takes and clips as loops to be played. */
import type { OpenClip } from '@/api/client'
import type { DrawnTake, OpenSheet } from '@/api/takes'
import type { Loop } from '@/sound/loop'

export function loopOfClip({ document, sounds }: OpenClip): Loop {
  return {
    lengthTicks: document.length_ticks,
    tempo: document.tempo,
    tempoChanges: document.tempo_changes as [number, number][],
    tracks: document.tracks.map((track, at) => ({ ...track, sounds: sounds[at] ?? {} })),
  }
}

export function loopOfTake({ tracks, sounds }: DrawnTake, { length_ticks, tempo }: OpenSheet): Loop {
  return {
    lengthTicks: length_ticks,
    tempo,
    tempoChanges: [],
    tracks: tracks.map((track, at) => ({ ...track, sounds: sounds[at] ?? {} })),
  }
}

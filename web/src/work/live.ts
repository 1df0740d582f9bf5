/** What hands hold, or held since it plays: heard and drawn, but no part of the document. All of it in ticks. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import type { HeldDetour, Keys, Score } from '@/api/client'
import { postponed } from '@/sound/time'

interface Span {
  readonly start: number
  readonly end?: number | null
}
/** Whether hands hold it still. */
export const isDown = ({ end }: Span): boolean => end === null || end === undefined

/** `span` where what was to count from the tick `late` on counts from `tick` on. */
export const later = <Of extends Span>(span: Of, late: number, tick: number): Of => ({
  ...span,
  start: postponed(span.start, late, tick),
  end: typeof span.end === 'number' ? postponed(span.end, late, tick) : null,
})

export const useLive = defineStore('live', () => {
  /** Keys, by lane. */
  const keys = shallowRef<ReadonlyMap<string, Keys>>(new Map())
  const detours = shallowRef<readonly HeldDetour[]>([])
  /** The tempo of a clock from outside, in place of the document's; null: it runs here. */
  const clockTempo = ref<number | null>(null)
  /** A score in the tempo that it is heard in. */
  const inTempo = (of: Score): Score => (clockTempo.value === null ? of : { ...of, tempo: clockTempo.value })

  function holdKeys(laneId: string, held: Keys) {
    keys.value = new Map([...keys.value, [laneId, held]])
  }
  /** What hands hold is heard rather than what is stored: patches of lanes that say what is held speak of both. */
  function takePatches(patches: ReadonlyMap<string, { readonly keys?: unknown }>) {
    for (const [id, patch] of patches) if (patch.keys && keys.value.has(id)) holdKeys(id, patch.keys as Keys)
  }
  /** The engine's answer came too late: what was to count from the tick `late` on counts from `tick` on. */
  function postpone(late: number, tick: number) {
    for (const [id, { held, sustained, let_go }] of keys.value)
      holdKeys(id, {
        held: held.map((one) => later(one, late, tick)),
        sustained: sustained.map((one) => later(one, late, tick)),
        let_go: let_go.map((when) => postponed(when, late, tick)),
      })
    if (detours.value.length) detours.value = detours.value.map((one) => later(one, late, tick))
  }
  /** Another pattern is heard: detours that are held still are held in that from its beginning. */
  function beginAnew() {
    if (detours.value.length)
      detours.value = detours.value.filter(isDown).map((one) => ({ ...one, start: 0 }))
  }
  function letGoOfDetours() {
    if (detours.value.length) detours.value = []
  }
  function letGoOfAll() {
    keys.value = new Map()
    letGoOfDetours()
  }

  return {
    keys,
    detours,
    clockTempo,
    inTempo,
    holdKeys,
    takePatches,
    postpone,
    beginAnew,
    letGoOfDetours,
    letGoOfAll,
  }
})

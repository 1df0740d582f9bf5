/** The running order while it plays: which row is heard, which follows, and what hands switch on top of it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import type { OrderRow, PlacedRow } from '@/api/client'
import { orderApi } from '@/engine/order'
import { useNotices } from '@/page/notices'
import type { Playing } from '@/sound/tape'
import { elapsed } from '@/sound/time'
import { scoreOf } from '@/work/document'
import { useLive } from '@/work/live'
import { usePiece } from '@/work/piece'
import { useTrail } from '@/work/trail'
import { usePlaying } from './playing'

export const useOrder = defineStore('order', () => {
  const piece = usePiece()
  const live = useLive()
  const trail = useTrail()
  const playing = usePlaying()
  const notices = useNotices()
  const rows = computed<readonly OrderRow[]>(() => piece.document?.order ?? [])
  /** Whether the order is what plays; a pattern that a hand switches to leaves it. */
  const isPlaying = computed(() => playing.isPlaying && piece.row !== null)
  /** Where the row that plays stands now: rows may have been put before it since. */
  const at = ref(0)
  /** The first and the last row of a stretch that goes round; null: the whole is played once. */
  const loop = shallowRef<readonly [number, number] | null>(null)

  const placed = (place: number): PlacedRow | null => {
    const row = rows.value[place]
    return row ? { place, row } : null
  }
  function playingOf(row: PlacedRow | null): Playing | null {
    const pattern = row && piece.patterns.find(({ id }) => id === row.row.pattern)
    return piece.document && pattern
      ? {
          score: live.inTempo(scoreOf(piece.document, pattern)),
          dice: pattern.dice,
          patternId: pattern.id,
          row,
        }
      : null
  }
  function placeAfter(place: number): number {
    const [first, last] = loop.value ?? [0, Infinity]
    return place >= first && place >= Math.min(last, rows.value.length - 1) && loop.value ? first : place + 1
  }
  const following = (): Playing | null => playingOf(placed(placeAfter(at.value)))

  /** Play from a row on; where something plays already, it takes over as patterns do. */
  async function playFrom(place: number) {
    const row = placed(place)
    if (!row) {
      notices.complain('The order has no rows yet: add one first.')
      return
    }
    at.value = place
    piece.choosePattern(row.row.pattern, row)
    if (!playing.isPlaying) await playing.play()
  }

  // ---- What is switched by hand, written down ----
  const isWriting = ref(false)
  let heard: { pattern: string; ticks: number }[] = []
  /** The stretch of tape that is heard, or was last. */
  function noteStretch(offset: number, endTick?: number) {
    const stretch = playing.tape.stretches.at(offset)
    if (!stretch || stretch.row) return
    const ticks = elapsed(0, endTick ?? stretch.nowTick, stretch.fromTick)
    heard.push({ pattern: stretch.patternId, ticks: Math.max(0, Math.round(ticks)) })
  }
  async function writeDown() {
    const { document } = piece
    const played = heard.filter(({ ticks }) => ticks > 0)
    heard = []
    if (!document || !played.length) return
    await notices.attempt(async () => {
      const fresh = await orderApi.written(document, played)
      edit(`${fresh.length} ${fresh.length === 1 ? 'row' : 'rows'} written down`, (all) => [...all, ...fresh])
      notices.say(
        `${fresh.length} ${fresh.length === 1 ? 'row is' : 'rows are'} written down at the end of the order.`,
        {
          label: 'Undo',
          act: () => trail.undo(),
        },
      )
    })
  }

  playing.onTurn((now, endTick) => {
    if (isWriting.value) noteStretch(-2, endTick)
    if (!now.row) return
    at.value = placeAfter(at.value)
    // Only what follows by itself goes on in the order: a row that a hand chose stands already.
    if (piece.row?.place === now.row.place && piece.pattern?.id === now.patternId) at.value = now.row.place
    else piece.choosePattern(now.patternId, now.row)
  })
  playing.follower = following
  playing.onOver(() => {
    playing.stop()
    notices.say('End of the order.', { label: 'Once more', act: () => playFrom(0) })
  })
  watch(
    () => playing.isPlaying,
    (plays) => {
      if (plays) {
        heard = []
        return
      }
      if (isWriting.value) {
        noteStretch(-1)
        void writeDown()
      }
      if (piece.row && piece.pattern) piece.choosePattern(piece.pattern.id)
    },
  )
  // What was not heard yet follows as it is now.
  watch(
    () => [piece.document, loop.value] as const,
    () => playing.player?.followAnew(),
    { flush: 'sync' },
  )
  watch(
    rows,
    (now, before) => {
      const here = piece.row
      if (!here || !isPlaying.value) return
      const moved = now.indexOf(here.row)
      if (moved >= 0) at.value = moved
      else if (now.length < before.length)
        at.value-- // it is gone: what stood after it follows
      else if (now[at.value]?.pattern === here.row.pattern)
        piece.choosePattern(here.row.pattern, { place: here.place, row: now[at.value] as OrderRow })
    },
    { flush: 'sync' },
  )
  watch(
    () => piece.id,
    () => (loop.value = null),
  )

  const edit = (
    label: string,
    change: (rows: readonly OrderRow[]) => readonly OrderRow[],
    gesture: string | null = null,
  ) => piece.edit(label, (document) => ({ ...document, order: [...change(document.order)] }), gesture)

  return { rows, isPlaying, at, loop, isWriting, placed, playingOf, playFrom, edit }
})

/** Keys that hands hold while the pattern plays or does not, and what of them is stored. */
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

import { isSame } from '@/api/same'
import type { Keys, Schemas } from '@/api/client'
import { melody } from '@/engine/melody'
import { useInTurn } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { NO_KEYS, withLanes } from '@/work/document'
import { useLive } from '@/work/live'
import { usePiece } from '@/work/piece'
import { usePlaying } from './playing'
import { afterAll, downKeys, released } from './timeline'

export const useHeldKeys = defineStore('held keys', () => {
  const piece = usePiece()
  const live = useLive()
  const playing = usePlaying()
  const notices = useNotices()
  /** Keys that hands have down now: what is stored of a lane is what stays when they are let go. */
  const handsDown = shallowRef<ReadonlySet<number>>(new Set())

  /** What hands hold for a lane: since it plays, or as the document has it. */
  const keysOf = (laneId: string): Keys =>
    live.keys.get(laneId) ?? piece.lanes.find(({ id }) => id === laneId)?.keys ?? NO_KEYS
  /** What lanes hold when hands have let go, by their ids: it is stored, but is no moment of history. */
  function store(held: ReadonlyMap<string, Keys>) {
    const patternId = piece.pattern?.id ?? ''
    piece.editQuietly((document) =>
      withLanes(document, patternId, (lanes) => {
        const changed = lanes.map((lane) => {
          const keys = held.get(lane.id)
          return keys && !isSame(keys, lane.keys) ? { ...lane, keys } : lane
        })
        return changed.some((lane, at) => lane !== lanes[at]) ? changed : lanes
      }),
    )
  }

  const gatherings = useInTurn()
  /**
   * Store what hands have left held, so that it is there after a reload, in a take, when the pattern begins anew: what
   * sounds then is what sounded. Where nothing plays, what they hold is so from the first moment on. The engine says
   * what that is. False where hands have done something meanwhile.
   */
  const gather = async (): Promise<boolean> => (await gatherings.run(gatherNow)) ?? true
  async function gatherNow(): Promise<boolean> {
    const before = live.keys
    const [pieceId, patternId] = [piece.id, piece.pattern?.id]
    const held: Schemas['GatherQuestion']['lanes'] = {}
    const left: Schemas['GatherQuestion']['lanes'] = {}
    for (const { id, arpeggio } of piece.lanes) {
      const keys = before.get(id)
      if (!keys || arpeggio?.pool.kind !== 'held') continue
      const latch = arpeggio.pool.latch ?? 'off'
      const down = downKeys(keys).filter((key) => handsDown.value.has(key))
      held[id] = { keys, latch }
      left[id] = { keys: down.reduce((all, key) => released(all, key, afterAll(keys)), keys), latch }
    }
    if (!Object.keys(held).length) return true
    const [now, then] = await Promise.all([
      handsDown.value.size && !playing.isPlaying ? melody.gather(held) : new Map<string, Keys>(),
      melody.gather(left),
    ])
    if (piece.id !== pieceId || piece.pattern?.id !== patternId) return true
    store(then)
    if (live.keys !== before) return false
    if (!playing.isPlaying) live.keys = now
    return true
  }
  const gatherAside = () => void gather().catch(notices.complain)
  const gatherSoon = useDebounceFn(gatherAside, 400)
  /** Hands did something: stored when they rest, and where nothing plays seen and heard from the first moment at once. */
  const handsMoved = () => (playing.isPlaying ? void gatherSoon() : gatherAside())

  playing.beforeBegin = async () => {
    while (!(await gather()));
  }
  playing.onStop(() => {
    if (live.keys.size) gatherAside()
  })

  return { handsDown, keysOf, handsMoved }
})

/** Keys that hands hold while the pattern plays or does not: from when on they count, and what of them is stored. */
import { useDebounceFn } from '@vueuse/core'
import { shallowRef } from 'vue'

import type { Keys, Schemas } from '@/api/client'
import { melody } from '@/engine/melody'
import { useInTurn } from '@/page/asking'
import { useNotices } from '@/page/notices'
import type { Player } from '@/sound/player'
import type { Clock } from '@/sound/port'
import { usePiece } from '@/work/piece'
import { afterAll, detoursMoved, downKeys, moved, released } from './timeline'

/** When something happened, as events say it: milliseconds since the page was opened. */
interface Stamped {
  readonly timeStamp: number
}

export function useHeldKeys(
  player: () => Player | null,
  clock: () => Clock | null,
  isPlaying: () => boolean,
) {
  const piece = usePiece()
  const notices = useNotices()

  /** When an event happened, in seconds on the audio clock, however late the page gets to it. */
  const timeOf = ({ timeStamp }: Stamped) => {
    const now = clock()?.now()
    return now === undefined ? 0 : now - Math.max(0, performance.now() - timeStamp) / 1000
  }
  /** From where on a key that was struck or let go with an event counts. */
  const keyTick = (event: Stamped) => player()?.keyTick(timeOf(event)) ?? 0
  /** Where the music was when an event happened. */
  const tickOf = (event: Stamped) => player()?.tickAt(timeOf(event)) ?? 0
  function lateKeys(late: number, tick: number) {
    for (const [id, keys] of piece.liveKeys) piece.holdKeys(id, moved(keys, late, tick))
    if (piece.heldDetours.length) piece.heldDetours = detoursMoved(piece.heldDetours, late, tick)
    for (const tell of onLate) tell(late, tick)
  }
  /** Told when what was to count from the tick `late` on counts from `tick` on. */
  const onLate = new Set<(late: number, tick: number) => void>()

  /** Keys that hands have down now: what is stored of a lane is what stays when they are let go. */
  const handsDown = shallowRef<ReadonlySet<number>>(new Set())
  const gatherings = useInTurn()
  /**
   * Store what hands have left held, so that it is there after a reload, in a take, when the pattern begins anew: what
   * sounds then is what sounded. Where nothing plays, what they hold is so from the first moment on. The engine says
   * what that is. False where hands have done something meanwhile.
   */
  const gatherKeys = async (): Promise<boolean> => (await gatherings.run(gatherNow)) ?? true
  async function gatherNow(): Promise<boolean> {
    const live = piece.liveKeys
    const [pieceId, patternId] = [piece.id, piece.pattern?.id]
    const held: Schemas['GatherQuestion']['lanes'] = {}
    const left: Schemas['GatherQuestion']['lanes'] = {}
    for (const { id, arpeggio } of piece.lanes) {
      const keys = live.get(id)
      if (!keys || arpeggio?.pool.kind !== 'held') continue
      const latch = arpeggio.pool.latch ?? 'off'
      const down = downKeys(keys).filter((key) => handsDown.value.has(key))
      held[id] = { keys, latch }
      left[id] = { keys: down.reduce((all, key) => released(all, key, afterAll(keys)), keys), latch }
    }
    if (!Object.keys(held).length) return true
    const [now, then] = await Promise.all([
      handsDown.value.size && !isPlaying() ? melody.gather(held) : new Map<string, Keys>(),
      melody.gather(left),
    ])
    if (piece.id !== pieceId || piece.pattern?.id !== patternId) return true
    piece.storeKeys(then)
    if (piece.liveKeys !== live) return false
    if (!isPlaying()) piece.liveKeys = now
    return true
  }
  const gather = () => void gatherKeys().catch(notices.complain)
  const gatherSoon = useDebounceFn(gather, 400)
  /** Hands did something: stored when they rest, and where nothing plays seen and heard from the first moment at once. */
  const handsMoved = () => (isPlaying() ? void gatherSoon() : gather())

  return { keyTick, tickOf, lateKeys, onLate, handsDown, gatherKeys, gather, handsMoved }
}

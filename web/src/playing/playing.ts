/** Playing the open pattern: from when on, what follows, and the tape that it runs onto. */
import { createEventHook, useEventListener, useIntervalFn, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { isAway } from '@/api/policy'
import { useAgreement } from '@/engine/agreement'
import { useConversation } from '@/engine/useConversation'
import { useNotices } from '@/page/notices'
import { useReach } from '@/page/reach'
import { Player, type ReadyMusic } from '@/sound/player'
import { AT_THE_BAR, isSamePlace, type How } from '@/sound/succession'
import { Tape, type Playing } from '@/sound/tape'
import { useAudition } from '@/work/audition'
import { keepLast, lastOf } from '@/work/last'
import { useLive } from '@/work/live'
import { usePiece } from '@/work/piece'
import { ensureAudio, restAudio } from './audio'
import { useSounding } from './sounding'
import { storedTape, storeTape } from './stored'

/** What lay ready of a pattern when the page was left. */
interface LastReady extends ReadyMusic {
  readonly pieceId: number
}
/** When something happened, as events say it: milliseconds since the page was opened. */
interface Stamped {
  readonly timeStamp: number
}

const STORED_EACH_MS = 5000

export const usePlaying = defineStore('playing', () => {
  const piece = usePiece()
  const live = useLive()
  const audition = useAudition()
  const conversation = useConversation()
  const agreement = useAgreement()
  const reach = useReach()
  const notices = useNotices()
  const sounding = useSounding()
  const player = shallowRef<Player | null>(null)
  const tape = shallowRef(new Tape())
  const isPlaying = ref(false)
  const isStarting = ref(false)
  /** When a pattern that is chosen while another plays takes over, and whether it begins or carries on. */
  const how = useLocalStorage<How>('jolly-lattice-switch', AT_THE_BAR)
  /** What may follow where what plays ends; the running order says it. */
  const follower = shallowRef<() => Playing | null>(() => null)

  /** Waited for before the pattern begins: what hands hold is stored first. */
  const beforeBegin = shallowRef<() => Promise<unknown>>(async () => undefined)
  const onStop = createEventHook<[]>()
  /** What plays has ended, and nothing follows. */
  const onOver = createEventHook<[]>()
  /** Another pattern, or another row of the running order, is heard; the one before ended at a tick. */
  const onTurn = createEventHook<[playing: Playing, endTick: number]>()
  /** What was to count from the tick `late` on counts from `tick` on. */
  const onLate = createEventHook<[late: number, tick: number]>()

  async function ready(): Promise<Player> {
    const { clock, port } = await sounding.start()
    player.value ??= new Player(clock, port, conversation, tape.value)
    player.value.onLateKeys = (late, tick) => {
      live.postpone(late, tick)
      void onLate.trigger(late, tick)
    }
    player.value.onRefused = agreement.refused
    player.value.onTurn = (playing, endTick) => {
      live.beginAnew()
      void onTurn.trigger(playing, endTick)
    }
    player.value.onPlaying = (now) => (isPlaying.value = now)
    player.value.following = () => follower.value()
    player.value.onOver = () => void onOver.trigger()
    return player.value
  }
  sounding.onTick(() => player.value?.tick())

  /** When an event happened, in seconds on the audio clock, however late the page gets to it. */
  const timeOf = ({ timeStamp }: Stamped) => {
    const now = sounding.clock?.now()
    return now === undefined ? 0 : now - Math.max(0, performance.now() - timeStamp) / 1000
  }
  /** From where on a key that was struck or let go with an event counts. */
  const keyTick = (event: Stamped) => player.value?.keyTick(timeOf(event)) ?? 0
  /** Where the music was when an event happened. */
  const tickOf = (event: Stamped) => player.value?.tickAt(timeOf(event)) ?? 0

  /** What is to be heard of the open pattern. What hands hold is held in what is heard, not in what waits. */
  function now(): Playing | null {
    const { score, stillScore, pattern, dice, row } = piece
    if (!score || !stillScore || !pattern) return null
    const open = { score, dice, patternId: pattern.id, row }
    const ours = player.value
    const isHeard =
      !ours?.isPlaying || isSamePlace(open, { ...open, patternId: ours.patternId, row: ours.row ?? null })
    return isHeard ? open : { ...open, score: stillScore }
  }

  /** `countIn`: bars of clicks before it begins. */
  async function play(fromTick = 0, countIn = 0) {
    if (!piece.score || isStarting.value) return
    isStarting.value = true
    try {
      const ours = await ready()
      if (!ours.isPlaying) {
        await beforeBegin.value()
        // From the beginning on hands hold what they hold: whatever they did before is over.
        live.letGoOfDetours()
      }
      const playing = now()
      sounding.takeOver('pattern')
      if (playing) await ours.play(playing, fromTick, countIn)
    } catch (reason) {
      if (await playReady(reason)) return
      notices.complain(reason, { label: 'Try again', act: () => play(fromTick) })
    } finally {
      isStarting.value = false
    }
  }

  /** Where the server is away: what lay ready of the pattern. Whether there is any. */
  async function playReady(reason: unknown): Promise<boolean> {
    const playing = now()
    const ready = isAway(reason) ? await lastOf<LastReady>('ready') : undefined
    if (!playing || ready?.pieceId !== piece.id || ready?.patternId !== playing.patternId) return false
    player.value?.playReady(playing, ready, reason)
    return isPlaying.value
  }

  function stop() {
    if (player.value?.isPlaying) restAudio()
    player.value?.stop()
    void onStop.trigger()
    live.letGoOfDetours()
    storeNow()
  }
  sounding.onTakeOver((source) => {
    if (source !== 'pattern' && (isPlaying.value || source === null)) stop()
  })

  // ---- The tape outlives a reload ----
  function storeNow() {
    if (piece.id === null) return
    if (tape.value.stretches.length) storeTape(piece.id, tape.value.stretches)
    void piece.keepHere()
    const ready = player.value?.ready()
    if (ready) void keepLast('ready', { pieceId: piece.id, ...ready } satisfies LastReady)
  }
  useIntervalFn(() => isPlaying.value && storeNow(), STORED_EACH_MS)
  useEventListener(window, 'pagehide', storeNow)

  /** The kit's own sounds are fetched as soon as there is audio to play them. */
  watch([() => piece.document?.kit, player], async ([kit, ours]) => {
    if (!kit || !ours) return
    await notices.attempt(async () => (await ensureAudio()).fetchOwn(kit.voices))
  })
  watch(
    () => reach.isAway,
    (isAway) => !isAway && player.value?.askAgain(),
  )
  watch(
    () => [piece.score, piece.dice, piece.pattern?.id, piece.row, audition.isOn] as const,
    ([, , id, , isAudition], [, , before, , wasAudition]) => {
      const playing = now()
      if (!playing || !player.value) return
      // From one thing that is tried to the next, and back, at the next beat: nothing is cut before that.
      if (id === before && (isAudition || wasAudition)) player.value.changeAtBeat(playing)
      else player.value.change(playing, id === before ? undefined : how.value)
    },
    { flush: 'sync' },
  )
  // Another piece has a tape of its own.
  watch(
    () => piece.id,
    (id, before) => {
      if (before !== null && before !== undefined && tape.value.stretches.length)
        storeTape(before, tape.value.stretches)
      player.value?.stop()
      player.value = null
      const fresh = new Tape()
      if (id !== null) fresh.stretches = storedTape(id)
      tape.value = fresh
    },
    { flush: 'sync', immediate: true },
  )

  return {
    player, tape, isPlaying, isStarting, how, follower, play, stop, keyTick, tickOf,
    beforeBegin, onStop: onStop.on, onOver: onOver.on, onTurn: onTurn.on, onLate: onLate.on,
  } // prettier-ignore
})

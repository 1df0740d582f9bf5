import { useEventListener, useIntervalFn, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { clipsApi } from '@/api/clips'
import { isAway } from '@/api/policy'
import { useAgreement } from '@/engine/agreement'
import { useConversation } from '@/engine/useConversation'
import type { Audio } from '@/sound/audio'
import { LoopPlayer, type Loop } from '@/sound/loop'
import { Player, type ReadyMusic } from '@/sound/player'
import { AT_THE_BAR, isSamePlace, type How } from '@/sound/succession'
import type { Clock } from '@/sound/port'
import { startOfBar } from '@/sound/time'
import { wavOf } from '@/sound/wav'
import { ensureAudio, restAudio } from './audio'
import { usePorts } from './ports'
import { useHeldKeys } from './useHeldKeys'
import { useKeeping } from './useKeeping'
import { useTrying } from './useTrying'
import { aheadOf, type Ahead } from './ahead'
import { storedTape, storeTape } from './stored'
import { Tape, type Playing } from '@/sound/tape'
import { keepLast, lastOf } from '@/work/last'
import { withMovement } from '@/work/movements'
import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { useReach } from '@/page/reach'
import { usePiece } from '@/work/piece'

/** What lay ready of a pattern when the page was left. */
interface LastReady extends ReadyMusic {
  readonly pieceId: number
}

const STORED_EACH_MS = 5000

/** Playing the open piece, takes and clips, and keeping what sounded. */
export const usePlaying = defineStore('playing', () => {
  const piece = usePiece()
  const conversation = useConversation()
  const agreement = useAgreement()
  const reach = useReach()
  const notices = useNotices()
  const ports = usePorts()
  const player = shallowRef<Player | null>(null)
  const tape = shallowRef(new Tape())
  const isPlaying = ref(false)
  const isStarting = ref(false)
  const keptBars = ref(4)
  let isTicking = false
  let clock: Clock | null = null

  async function ready(): Promise<Player> {
    const sound = await sounding()
    clock = sound.clock
    player.value ??= new Player(sound.clock, sound.port, conversation, tape.value)
    player.value.onLateKeys = lateKeys
    player.value.onRefused = agreement.refused
    player.value.onTurn = turned
    player.value.following = following
    player.value.onOver = () => onOver.forEach((tell) => tell())
    return player.value
  }

  // ---- Keys that hands hold ----

  const { keyTick, tickOf, lateKeys, onLate, handsDown, gatherKeys, gather, handsMoved } = useHeldKeys(
    () => player.value,
    () => clock,
    () => isPlaying.value,
  )
  /** The audio, let to sound, with everything that plays looked after. */
  async function sounding(): Promise<Audio> {
    const sound = await ensureAudio()
    ports.begin(sound)
    if (!isTicking)
      sound.onTick(() => {
        player.value?.tick()
        loop.value?.tick()
        ports.tick(player.value)
        followAhead()
      })
    isTicking = true
    loop.value ??= new LoopPlayer(sound.clock, sound.port)
    await sound.resume()
    return sound
  }

  // ---- A loop of known notes: a take or a clip ----
  const loop = shallowRef<LoopPlayer | null>(null)
  /** What goes round, by a name of its own; '' when nothing does. */
  const looping = ref('')
  /** What Space plays on a screen that has something of its own to play; null: the pattern. */
  const ownPlay = shallowRef<(() => unknown) | null>(null)

  /** What is to loop next: of several that were asked for the last one alone, and none once all is stopped. */
  const wantedLoop = useNewest()
  /** Play what `find` finds as a loop; where one plays already, this takes its place, in time. */
  async function playLoop(name: string, find: () => Promise<Loop> | Loop) {
    try {
      const notes = await wantedLoop.ask(async () => {
        const found = await find()
        await (await sounding()).fetchOwn(voicesOf(found))
        return found
      })
      if (!notes) return
      if (isPlaying.value) stopPattern()
      if (looping.value) loop.value?.change(notes)
      else loop.value?.play(notes)
      looping.value = name
    } catch (reason) {
      notices.complain(reason)
    }
  }
  /** Exchange the notes of what goes round, if it is still `name`. */
  function changeLoop(name: string, notes: Loop) {
    if (looping.value === name) loop.value?.change(notes)
  }
  function stopLoop() {
    wantedLoop.cancel()
    if (!looping.value) return
    restAudio()
    loop.value?.stop()
    looping.value = ''
  }

  /** One pass of a loop as the bytes of a WAV file. */
  async function renderWav(notes: Loop): Promise<ArrayBuffer> {
    const sound = await ensureAudio()
    await sound.fetchOwn(voicesOf(notes))
    return wavOf(await sound.offline(notes))
  }

  // ---- Recording ahead ----
  const ahead = shallowRef<Ahead | null>(null)

  /** Keep the next `bars` bars, with all that is done meanwhile; from a stop, perhaps after a bar of `countIn`. */
  async function recordAhead(bars: number, countIn: boolean) {
    if (ahead.value) {
      ahead.value = null
      return
    }
    if (!isPlaying.value) await play(0, countIn ? 1 : 0)
    const stretch = tape.value.stretches.at(-1)
    if (isPlaying.value && stretch) ahead.value = aheadOf(stretch, bars)
  }
  /** Keep what was recorded once it is there, or as much as there was when it ended. */
  function followAhead() {
    const recording = ahead.value
    if (!recording) return
    const isOver = !isPlaying.value || tape.value.stretches.at(-1) !== recording.stretch
    const { nowTick, barTicks } = recording.stretch
    if (!isOver && nowTick < startOfBar(recording.end, barTicks)) return
    ahead.value = null
    void keep(recording.end - recording.first, { ...recording, stretches: [recording.stretch] })
  }

  /** When a pattern that is chosen while another plays takes over, and whether it begins or carries on. */
  const how = useLocalStorage<How>('jolly-lattice-switch', AT_THE_BAR)

  /** What the table holds, for the player. What hands hold is held in what is heard, not in what waits. */
  function now(): Playing | null {
    const { score, stillScore, pattern, dice, row } = piece
    if (!score || !stillScore || !pattern) return null
    const table = { score, dice, patternId: pattern.id, row }
    const ours = player.value
    const isHeard =
      !ours?.isPlaying || isSamePlace(table, { ...table, patternId: ours.patternId, row: ours.row ?? null })
    return isHeard ? table : { ...table, score: stillScore }
  }
  /** Another pattern is heard now: what hands hold still is held in that from its beginning. */
  function turned(playing: Playing, endTick: number) {
    const down = piece.heldDetours.filter(({ end }) => end === null || end === undefined)
    if (piece.heldDetours.length) piece.heldDetours = down.map((one) => ({ ...one, start: 0 }))
    for (const tell of onTurn) tell(playing, endTick)
  }
  /** What may follow where what plays ends: the first that says something. */
  const followers = new Set<() => Playing | null>()
  function following(): Playing | null {
    for (const next of followers) {
      const playing = next()
      if (playing) return playing
    }
    return null
  }
  /** Told when what plays has ended, and nothing follows. */
  const onOver = new Set<() => void>()
  /** Told when another pattern, or another row of the running order, is heard. */
  const onTurn = new Set<(playing: Playing, endTick: number) => void>()

  /** `countIn`: bars of clicks before it begins. */
  async function play(fromTick = 0, countIn = 0) {
    if (!piece.score || isStarting.value) return
    isStarting.value = true
    try {
      const ours = await ready()
      // From the beginning on hands hold what they hold: whatever they did before is over.
      while (!ours.isPlaying && !(await gatherKeys()));
      if (!ours.isPlaying) piece.heldDetours = []
      const playing = now()
      stopLoop()
      if (playing) await ours.play(playing, fromTick, countIn)
      isPlaying.value = ours.isPlaying
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
    isPlaying.value = player.value?.isPlaying ?? false
    return isPlaying.value
  }

  /** The kit's own sounds are fetched as soon as there is audio to play them. */
  watch([() => piece.document?.kit, player], async ([kit, ours]) => {
    if (!kit || !ours) return
    try {
      await (await ensureAudio()).fetchOwn(kit.voices)
    } catch (reason) {
      notices.complain(reason)
    }
  })

  function stopPattern() {
    if (player.value?.isPlaying) restAudio()
    player.value?.stop()
    isPlaying.value = false
    if (piece.liveKeys.size) gather()
    if (piece.heldDetours.length) piece.heldDetours = []
    followAhead()
    storeNow()
  }
  function stop() {
    stopPattern()
    stopLoop()
  }

  /** Silence at once, whatever sounds, wherever. */
  async function panic() {
    stop()
    ports.panic()
    try {
      ;(await ensureAudio()).port.silence()
      notices.say('All is silent: every note at every port is ended.')
    } catch (reason) {
      notices.complain(reason)
    }
  }

  function toggle() {
    if (isPlaying.value || looping.value) return stop()
    return ownPlay.value ? ownPlay.value() : play()
  }

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

  const { soundKey, tryVoice, trySinging } = useTrying()
  /** Whether muting is written down: whoever records moves says so. */
  const isRecordingMoves = ref(false)

  /** Mute or unmute a lane, at once. */
  function mute(laneId: string, isMuted: boolean) {
    const lane = piece.lanes.find(({ id }) => id === laneId)
    const moved = lane?.movements?.find(({ control, off }) => control === 'mute' && !off)
    // Written down, or taken over by the hand: then the movement is off, so that the hand has its way.
    if (isRecordingMoves.value && lane)
      piece.editLane(laneId, `${lane.name}: ${isMuted ? 'muted' : 'unmuted'}`, (old) => ({
        ...old,
        mute: isMuted,
      }))
    else if (moved && lane)
      piece.editLane(laneId, `${lane.name}: muted by hand, its movement off`, (old) => ({
        ...old,
        mute: isMuted,
        movements: withMovement(old.movements ?? [], 'mute', { ...moved, off: true }),
      }))
    else piece.silence(laneId, { mute: isMuted })
    // What is written down counts from a tick on, as all that moves does; else a hand is heard at once.
    if (isMuted && !isRecordingMoves.value) player.value?.silence((id) => id === laneId)
  }

  /** Solo a lane or not; the others fall silent at once. */
  function solo(laneId: string, isSolo: boolean) {
    piece.silence(laneId, { solo: isSolo })
    const soloed = new Set(piece.lanes.filter((lane) => lane.solo).map((lane) => lane.id))
    if (isSolo) player.value?.silence((id) => !soloed.has(id))
  }

  const { keep, counted } = useKeeping({
    tape: () => tape.value,
    player: () => player.value,
    placeClip: (id, name) => placeClip(id, name),
  })

  /** Play a clip in place of the lanes that it came from; they are set aside, not gone. */
  async function placeClip(id: number, name: string) {
    try {
      const clips = await clipsApi.inPlace(
        id,
        piece.lanes.map((lane) => lane.id),
      )
      piece.editLanes(`“${name}” plays in place`, (lanes) =>
        lanes.map((lane) => (clips[lane.id] ? { ...lane, clip: clips[lane.id] ?? null } : lane)),
      )
    } catch (reason) {
      notices.complain(reason)
    }
  }
  /** Let the lanes play themselves again. */
  function bringLanesBack() {
    piece.editLanes('The lanes play again', (lanes) =>
      lanes.map((lane) => (lane.clip ? { ...lane, clip: null } : lane)),
    )
  }

  watch(
    () => reach.isAway,
    (isAway) => !isAway && player.value?.askAgain(),
  )
  watch(
    () => [piece.score, piece.dice, piece.pattern?.id, piece.row, piece.isTried] as const,
    ([, , id, , isTried], [, , before, , wasTried]) => {
      const playing = now()
      if (!playing || !player.value) return
      // From one thing that is tried to the next, and back, at the next beat: nothing is cut before that.
      if (id === before && (isTried || wasTried)) player.value.changeAtBeat(playing)
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
      isPlaying.value = false
      player.value = ahead.value = null
      const fresh = new Tape()
      if (id !== null) fresh.stretches = storedTape(id)
      tape.value = fresh
    },
    { flush: 'sync', immediate: true },
  )

  return {
    player,
    tape,
    loop,
    looping,
    ownPlay,
    ahead,
    playLoop,
    changeLoop,
    stopLoop,
    renderWav,
    recordAhead,
    placeClip,
    bringLanesBack,
    isPlaying,
    isStarting,
    keptBars,
    kept: counted,
    engine: conversation,
    how,
    isRecordingMoves,
    onTurn,
    onOver,
    followers,
    onLate,
    ready: ensureAudio,
    play,
    stop,
    toggle,
    panic,
    sounding,
    tryVoice,
    trySinging,
    keyTick,
    tickOf,
    handsDown,
    handsMoved,
    soundKey,
    mute,
    solo,
    keep,
  }
})

const voicesOf = ({ tracks }: Loop) =>
  tracks.flatMap(({ sounds }) => Object.values(sounds).map(({ voice }) => voice))

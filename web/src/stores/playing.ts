import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { clipsApi } from '@/api/clips'
import { answer, api, type KeptClip, type Schemas } from '@/api/client'
import type { Audio } from '@/sound/audio'
import { Player, type Question } from '@/sound/player'
import type { Standing } from '@/sound/port'
import { tapeOf, type Playing, type TapeStretch } from '@/tape/tape'
import { useNotices } from './notices'
import { usePiece } from './piece'

const ask = (question: Question) =>
  answer(api.POST('/api/render', { body: question as Schemas['RenderQuestion'] }))

let audio: Promise<Audio> | undefined
/** The browser's audio, made when it is first needed; Tone.js is fetched only then. */
const ensureAudio = (): Promise<Audio> =>
  (audio ??= import('@/sound/audio')
    .then(({ createAudio }) => createAudio(latencyAsked()))
    .catch((reason: unknown) => {
      audio = undefined // so that it can be tried again
      throw reason
    }))
const latencyAsked = () => Number(new URLSearchParams(location.search).get('latency')) || undefined

/** Playing the open piece, and keeping what sounded. */
export const usePlaying = defineStore('playing', () => {
  const piece = usePiece()
  const notices = useNotices()
  const player = shallowRef<Player | null>(null)
  const isPlaying = ref(false)
  const isStarting = ref(false)
  const keptBars = ref(4)
  let isTicking = false

  async function ready(): Promise<Player> {
    const sound = await ensureAudio()
    if (!isTicking) sound.onTick(() => player.value?.tick())
    isTicking = true
    player.value ??= new Player(sound.clock, sound.port, ask)
    await sound.resume()
    return player.value
  }

  /** What the table holds, for the player. */
  const now = (): Playing | null =>
    piece.score && piece.pattern
      ? { score: piece.score, dice: piece.dice, patternId: piece.pattern.id }
      : null

  async function play(fromTick = 0) {
    if (!piece.score || isStarting.value) return
    isStarting.value = true
    try {
      const ours = await ready()
      const playing = now()
      if (playing) await ours.play(playing, fromTick)
      isPlaying.value = ours.isPlaying
    } catch (reason) {
      notices.complain(reason, { label: 'Try again', act: () => play(fromTick) })
    } finally {
      isStarting.value = false
    }
  }

  /** The kit's own sounds are fetched as soon as there is audio to play them. */
  watch(
    () => [piece.document?.kit, player.value] as const,
    async ([kit, ours]) => {
      if (!kit || !ours) return
      try {
        await (await ensureAudio()).fetchOwn(kit.voices)
      } catch (reason) {
        notices.complain(reason)
      }
    },
  )

  function stop() {
    if (player.value?.isPlaying) void audio?.then((sound) => sound.rest())
    player.value?.stop()
    isPlaying.value = false
  }

  const toggle = () => (isPlaying.value ? stop() : play())

  /** Sound one voice now, at the touch of a hand. */
  async function tryVoice(voice: Schemas['Voice'], standing: Standing = { level: 0, pan: 0 }) {
    try {
      const sound = await ensureAudio()
      await sound.resume()
      await sound.fetchOwn([voice])
      const time = sound.clock.now() + 0.02
      const channel = piece.document?.kit.channel ?? 10
      const { pitch } = voice
      sound.port.strike({
        ...standing, voice, pitch, semitones: 0, velocity: 100, channel, time, end: time + 1,
      }) // prettier-ignore
    } catch (reason) {
      notices.complain(reason)
    }
  }

  /** Mute or unmute a lane, at once. */
  function mute(laneId: string, isMuted: boolean) {
    piece.silence(laneId, { mute: isMuted })
    if (isMuted) player.value?.silence((id) => id === laneId)
  }

  /** Solo a lane or not; the others fall silent at once. */
  function solo(laneId: string, isSolo: boolean) {
    piece.silence(laneId, { solo: isSolo })
    const soloed = new Set(piece.lanes.filter((lane) => lane.solo).map((lane) => lane.id))
    if (isSolo) player.value?.silence((id) => !soloed.has(id))
  }

  /** Keep the last bars, or a `stretch` of them, as a clip. Null if there was nothing to keep. */
  async function keep(
    bars: number,
    of?: { stretch: TapeStretch; first: number; end: number },
  ): Promise<KeptClip | null> {
    player.value?.tick()
    const stretch = of?.stretch ?? player.value?.tape.newestWhole()
    if (!stretch || !piece.document || !piece.pattern) {
      notices.complain('Nothing has sounded yet. Press play: the tape is always running.')
      return null
    }
    try {
      const body: Schemas['Keeping'] = {
        piece: piece.document.name,
        pattern: piece.patterns.find(({ id }) => id === stretch.patternId)?.name ?? piece.pattern.name,
        score: stretch.score,
        dice: stretch.dice,
        tape: tapeOf(stretch),
        bars,
        stretch: of ? { first_bar: of.first, end_bar: of.end } : null,
      }
      const kept = await clipsApi.keep(body)
      notices.say(saidOf(kept, of ? of.end - of.first : bars, stretch), {
        label: 'Download .mid',
        act: () => location.assign(clipsApi.file(kept.id)),
      })
      return kept
    } catch (reason) {
      notices.complain(reason)
      return null
    }
  }

  watch(
    () => [piece.score, piece.dice, piece.pattern?.id] as const,
    () => {
      const playing = now()
      if (playing) player.value?.change(playing)
    },
    { flush: 'sync' },
  )
  // Another piece has a tape of its own.
  watch(
    () => piece.id,
    () => {
      stop()
      player.value = null
    },
    { flush: 'sync' },
  )

  return {
    player,
    isPlaying,
    isStarting,
    keptBars,
    ask,
    ready: ensureAudio,
    play,
    stop,
    toggle,
    tryVoice,
    mute,
    solo,
    keep,
  }
})

function saidOf(kept: KeptClip, asked: number, stretch: TapeStretch): string {
  const few = kept.bars < asked ? ` (only ${kept.bars} had sounded whole)` : ''
  const changedAt = stretch.tempoChangedAt
  const first = (kept.document.origin?.first_bar ?? 0) * stretch.barTicks
  const within = changedAt !== null && changedAt > first && changedAt < first + kept.document.length_ticks
  const tempo = within ? ` The tempo changed on the way: the clip has ${kept.document.tempo}.` : ''
  return `Kept “${kept.document.name}”${few}.${tempo}`
}

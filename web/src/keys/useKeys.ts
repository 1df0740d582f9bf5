/** Hands on the keys: what they hold is heard at once, fills the pools that listen, and may be played into the lane. */
import { useEventListener } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'

import type { Lane, LanePicture } from '@/api/client'
import { lettersPlay } from '@/composables/useShortcuts'
import { usePiece } from '@/stores/piece'
import { usePlaying } from '@/stores/playing'
import { semitonesOf } from './keyboard'
import { CROSSING, replay, type Player } from './midiKeyboard'
import { begun, downKeys, letGo, NO_KEYS, pedalled, pressed, released } from './timeline'
import type { useRecording } from './useRecording'

const HIGHEST = 127

export function useKeys(
  lane: () => Lane,
  picture: () => LanePicture | undefined,
  recording: ReturnType<typeof useRecording>,
) {
  const piece = usePiece()
  const playing = usePlaying()
  /** The octave of the first key, as in C4. */
  const octave = ref(3)
  const velocity = ref(100)
  const isSustained = ref(false)
  const keys = computed(() => piece.liveKeys ?? NO_KEYS)
  /** All that is down, whether any lane listens to it or not. */
  const down = shallowRef<ReadonlySet<number>>(new Set())
  const sounding = new Map<number, Promise<(() => void) | null>>()
  const firstKey = computed(() => 12 * (octave.value + 1))

  const isHeldPool = ({ arpeggio }: Lane) => arpeggio?.pool.kind === 'held'
  const listens = () => piece.lanes.some(isHeldPool)
  const adds = () =>
    piece.lanes.some(({ arpeggio }) => arpeggio?.pool.kind === 'held' && arpeggio.pool.latch === 'add')

  function press(key: number, hard = velocity.value) {
    if (key < 0 || key > HIGHEST || down.value.has(key)) return
    const isFirst = down.value.size === 0
    down.value = new Set([...down.value, key])
    // While an arpeggio plays, it is what sounds; else the key itself does.
    if (!(isHeldPool(lane()) && playing.isPlaying))
      sounding.set(key, playing.soundKey(lane(), picture()?.tone ?? null, key, hard))
    if (listens()) {
      // Where nothing plays there is no time in which one chord follows another: the new one takes its place.
      const before = !playing.isPlaying && isFirst && !adds() ? NO_KEYS : keys.value
      piece.liveKeys = pressed(before, key, hard, playing.isPlaying ? playing.keyTick() : 0)
    }
    recording.struck(key, hard)
  }
  function release(key: number) {
    if (!down.value.has(key)) return
    down.value = new Set([...down.value].filter((one) => one !== key))
    void sounding.get(key)?.then((end) => end?.())
    sounding.delete(key)
    if (downKeys(keys.value).includes(key))
      piece.liveKeys = released(keys.value, key, playing.isPlaying ? playing.keyTick() : 0)
    recording.released(key)
  }
  function sustain(isDown: boolean) {
    if (isSustained.value === isDown) return
    isSustained.value = isDown
    if (listens()) piece.liveKeys = pedalled(keys.value, isDown, playing.isPlaying ? playing.keyTick() : 0)
  }
  /** Let go of everything: keys, pedal, and what latches hold. */
  function letAllGo() {
    stopPhrase.value?.()
    down.value.forEach(release)
    sustain(false)
    piece.liveKeys = playing.isPlaying ? letGo(keys.value, playing.keyTick()) : NO_KEYS
  }

  // ---- A simulated MIDI keyboard ----
  const player: Player = { down: press, up: release, sustain }
  const stopPhrase = shallowRef<(() => void) | null>(null)
  function togglePhrase() {
    if (stopPhrase.value) return stopPhrase.value()
    stopPhrase.value = replay(CROSSING, piece.document?.tempo ?? 100, player, () => (stopPhrase.value = null))
  }

  // ---- The computer's keyboard ----
  const byPlace = new Map<string, number>()
  const isTyping = (event: KeyboardEvent) =>
    event.target instanceof Element && event.target.closest('input, textarea, .v-overlay') !== null
  useEventListener(window, 'keydown', (event) => {
    const semitones = semitonesOf(event.code)
    if (semitones === undefined || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
    event.preventDefault()
    if (event.repeat) return
    const key = firstKey.value + semitones
    byPlace.set(event.code, key)
    press(key)
  })
  useEventListener(window, 'keyup', (event) => {
    const key = byPlace.get(event.code)
    if (key !== undefined) release(key)
    byPlace.delete(event.code)
  })
  useEventListener(window, 'blur', () => down.value.forEach(release))

  function turnOctave(by: number) {
    octave.value = Math.min(7, Math.max(0, octave.value + by))
  }

  // ---- Kept in the pattern ----
  const hasLive = computed(() => (piece.liveKeys?.held.length ?? 0) > 0)
  const hasKept = computed(() => (piece.pattern?.keys.held.length ?? 0) > 0)
  /** Keep what is held, or latched, in the pattern: it is there whenever that plays. */
  function keepInPattern() {
    const kept = begun(keys.value, adds())
    const held = kept.held.map((one) => ({ ...one, end: null })) // held for good, whatever latches do
    piece.editPattern(`Keys: ${held.length} kept in the pattern`, (pattern) => ({
      ...pattern,
      keys: { ...kept, held },
    }))
    down.value.forEach(release)
    piece.liveKeys = null
  }
  const forgetKept = () =>
    piece.editPattern('Keys: those of the pattern let go', (pattern) => ({ ...pattern, keys: NO_KEYS }))

  lettersPlay.value = true
  onScopeDispose(() => {
    lettersPlay.value = false
    stopPhrase.value?.()
    down.value.forEach(release)
    sustain(false)
  })

  return {
    octave, velocity, isSustained, down, firstKey, stopPhrase, hasLive, hasKept,
    press, release, sustain, letAllGo, togglePhrase, turnOctave, keepInPattern, forgetKept,
  } // prettier-ignore
}

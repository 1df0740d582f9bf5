/** Hands on the keyboard: they fill the pools of the lanes that are chosen, sound by themselves, and may be played in. */
import { useEventListener } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'

import { HeldKey } from '@/api/limits.json'
import type { Lane, LanePicture } from '@/api/client'
import { useNotices } from '@/page/notices'
import { useShortcutState } from '@/page/useShortcuts'
import { usePiece } from '@/work/piece'
import { useLive } from '@/work/live'
import { useTrying } from '@/playing/useTrying'
import { useHeldKeys } from '@/playing/heldKeys'
import { usePlaying } from '@/playing/playing'
import { semitonesOf } from './keyboard'
import { CROSSING, replay, type KeyHandler, type Stamped } from './midiKeyboard'
import { usePlayedKeys } from './playedKeys'
import { afterAll, downKeys, isPedalDown, letGo, pedalled, pressed, released } from '@/playing/timeline'
import type { useRecording } from './useRecording'

/** The keys that a keyboard may begin with: the Cs, from C0 on. */
const FIRST_KEYS = [12, 24, 36, 48, 60, 72, 84, 96]

const now = (): Stamped => ({ timeStamp: performance.now() })

/** `lanes`: those that are chosen, the first of them first: keys reach no others. */
export function useKeys(
  lanes: () => readonly Lane[],
  pictured: (laneId: string) => Promise<LanePicture | undefined>,
  recording: ReturnType<typeof useRecording>,
  /** Sounds a key where the lane has no pitched voice: it strikes the kit. */
  strike: (key: number, velocity: number) => unknown = () => undefined,
) {
  const piece = usePiece()
  const playing = usePlaying()
  const held = useHeldKeys()
  const live = useLive()
  const { soundKey } = useTrying()
  const notices = useNotices()
  const shortcuts = useShortcutState()
  /** Which of FIRST_KEYS the keyboard begins with. */
  const first = ref(3)
  const velocity = ref(100)
  const isSustained = ref(false)
  /** All that is down, whether any lane listens to it or not. */
  const down = computed(() => held.handsDown)
  const sounding = new Map<number, Promise<(() => void) | null>>()
  const firstKey = computed(() => FIRST_KEYS[first.value] ?? 0)

  const isHeldPool = ({ arpeggio }: Lane) => arpeggio?.pool.kind === 'held'
  const listening = () => lanes().filter(isHeldPool)
  /** When it counts; where nothing plays, after all that hands did before. */
  const tickOf = (event: Stamped, ids: readonly string[]) =>
    playing.isPlaying ? playing.keyTick(event) : Math.max(0, ...ids.map((id) => afterAll(held.keysOf(id))))
  const idsOf = (some: readonly Lane[]) => some.map(({ id }) => id)

  /** What hands do while a change of the latch is on its way: it counts after that. */
  let waiting: (() => void)[] | null = null
  const inTurn = (act: () => void) => (waiting ? void waiting.push(act) : act())
  async function changeLatch(change: () => Promise<void>) {
    waiting ??= []
    try {
      await change()
    } finally {
      const acts = waiting
      waiting = null
      acts?.forEach((act) => act())
    }
  }

  /** How a lane sounds and where may have been asked for only now, as for one just added: a key waits for that. */
  async function sound(lane: Lane, key: number, hard: number) {
    const seen = await pictured(lane.id)
    if (!seen) return null
    try {
      const where = { port: seen.port, channel: seen.plays_on }
      if (seen.tone) return await soundKey(lane, seen.tone, key, hard, where)
      strike(key, hard)
    } catch (reason) {
      notices.complain(reason)
    }
    return null
  }
  function press(key: number, hard = velocity.value, event: Stamped = now()) {
    if (key < 0 || key > HeldKey.key.max || down.value.has(key)) return
    held.handsDown = new Set([...down.value, key])
    const [lane] = lanes()
    // While an arpeggio plays, it is what sounds; else the key itself does.
    if (lane && !(isHeldPool(lane) && playing.isPlaying)) sounding.set(key, sound(lane, key, hard))
    const reached = idsOf(listening())
    const tick = reached.length ? tickOf(event, reached) : 0
    inTurn(() => {
      for (const id of reached) live.holdKeys(id, pressed(held.keysOf(id), key, hard, tick))
      if (reached.length && !playing.isPlaying) held.handsMoved()
    })
    recording.struck(key, hard, event)
  }
  function release(key: number, event: Stamped = now()) {
    if (!down.value.has(key)) return
    held.handsDown = new Set([...down.value].filter((one) => one !== key))
    void sounding.get(key)?.then((end) => end?.())
    sounding.delete(key)
    const holding = () => [...live.keys].filter(([, keys]) => downKeys(keys).includes(key))
    // A key that no lane holds changes nothing: the music waits for no answer.
    const tick = playing.isPlaying && (waiting || holding().length) ? tickOf(event, []) : null
    inTurn(() => {
      for (const [id, keys] of holding()) live.holdKeys(id, released(keys, key, tick ?? afterAll(keys)))
      if (live.keys.size) held.handsMoved()
    })
    void recording.released(key, event)
  }
  const releaseAll = () => down.value.forEach((key) => release(key))
  function sustain(isDown: boolean, event: Stamped = now()) {
    if (isSustained.value === isDown) return
    isSustained.value = isDown
    const reached = isDown
      ? idsOf(listening())
      : idsOf(piece.lanes).filter((id) => isPedalDown(held.keysOf(id)))
    const tick = reached.length ? tickOf(event, reached) : 0
    for (const id of reached) live.holdKeys(id, pedalled(held.keysOf(id), isDown, tick))
    if (reached.length) held.handsMoved()
  }
  /** Let go of everything that the chosen lanes hold: keys, pedal, and what latches keep. */
  function letAllGo() {
    stopPhrase.value?.()
    releaseAll()
    sustain(false)
    const reached = idsOf(listening())
    const tick = reached.length ? tickOf(now(), reached) : 0
    for (const id of reached) live.holdKeys(id, letGo(ended(id, tick), tick))
    if (reached.length) held.handsMoved()
  }
  /** A lane's keys with all that are held for good let go too. */
  const ended = (id: string, tick: number) =>
    downKeys(held.keysOf(id)).reduce((all, key) => released(all, key, tick), held.keysOf(id))

  // ---- A simulated MIDI keyboard ----
  const player: KeyHandler = { down: press, up: release, sustain }
  const played = usePlayedKeys()
  played.player = player
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
    const place = semitonesOf(event.code)
    if (place === undefined || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
    event.preventDefault()
    if (event.repeat) return
    const key = firstKey.value + place
    byPlace.set(event.code, key)
    press(key, velocity.value, event)
  })
  useEventListener(window, 'keyup', (event) => {
    const key = byPlace.get(event.code)
    if (key !== undefined) release(key, event)
    byPlace.delete(event.code)
  })
  useEventListener(window, 'blur', releaseAll)

  function turnOctave(by: number) {
    first.value = FIRST_KEYS[first.value + by] === undefined ? first.value : first.value + by
  }

  shortcuts.lettersPlay = true
  onScopeDispose(() => {
    shortcuts.lettersPlay = false
    if (played.player === player) played.player = null
    stopPhrase.value?.()
    releaseAll()
    sustain(false)
  })

  return {
    velocity, isSustained, down, firstKey, stopPhrase,
    press, release, sustain, letAllGo, changeLatch, togglePhrase, turnOctave,
  } // prettier-ignore
}

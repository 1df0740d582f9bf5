/** What controllers send, at work: what was learned moves what it was bound to, keys play, the rest is passed over. */
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { onScopeDispose, watch } from 'vue'

import type { Binding, Target } from '@/api/ports'
import { useDetours } from '@/around/useDetours'
import { targetAt } from '@/hands/learn'
import { keyOfTarget, useLearning, type Thing } from '@/hands/learning'
import { Takeover } from '@/hands/takeover'
import { heed } from '@/keyboard/midiKeyboard'
import { usePlayedKeys } from '@/keyboard/playedKeys'
import { newGesture } from '@/page/gesture'
import { handleOf, type ControlHandle } from '@/perform/controlHandles'
import { useControlHandles } from '@/perform/useControlHandles'
import { usePorts, type Heard } from '@/playing/ports'
import { choosePattern } from '@/playing/useHeardPattern'
import { channelOf, isNoteOff, isNoteOn, movedBy } from '@/sound/midi/messages'
import { BEND, PRESSURE } from '@/sound/neutral'
import { LANE_CONTROLS, PATTERN_CONTROLS } from '@/work/movements'
import { usePiece } from '@/work/piece'
import { useMutes } from '@/playing/mutes'
import { useKeeping } from '@/playing/keeping'
import { useTransport } from '@/playing/transport'

/** Milliseconds in which moves are taken together; after which of them the next is another moment of the history. */
const TOGETHER = 16
const RESTS = 1200
const BENT = 8192

interface Move {
  readonly target: Target
  readonly share: number
}

export function useControllers() {
  const ports = usePorts()
  const piece = usePiece()
  const transport = useTransport()
  const keeping = useKeeping()
  const mutes = useMutes()
  const detours = useDetours()
  const learning = useLearning()
  const keys = usePlayedKeys()
  const holds = useControlHandles()
  const takeover = new Takeover()

  const listen = (heard: Heard) => take(heard)
  const letGo = (name: string) => keys.releaseFrom(name)
  ports.onHeard.add(listen)
  ports.onGone.add(letGo)
  onScopeDispose(() => {
    ports.onHeard.delete(listen)
    ports.onGone.delete(letGo)
  })

  function take({ from, message, timeStamp }: Heard) {
    const thing = thingOf(message)
    if (thing && learning.wanted && (thing.message !== 'note' || isNoteOn(message)))
      return void learning.bind(from, thing, learning.wanted)
    const binding = thing && learning.find(from, thing)
    if (binding) return act(binding, message, timeStamp)
    heed(message, keys.playerOf(from), { timeStamp })
  }

  function act({ target }: Binding, message: readonly number[], timeStamp: number) {
    if (target.kind === 'hand' || target.kind === 'control') {
      if (!isNoteOff(message)) moveSoon(target, shareOf(message))
      return
    }
    const isDown = isNoteOn(message) || (movedBy(message) !== null && shareOf(message) >= 0.5)
    if (target.kind === 'detour')
      return isDown
        ? detours.holdChosen({ timeStamp }, target.detour)
        : detours.letGo(target.detour, { timeStamp })
    if (isDown) press(target)
  }
  function press(target: Target) {
    if (target.kind === 'pattern') {
      const pattern = piece.patterns[target.place]
      if (pattern) choosePattern(pattern.id)
    }
    if (target.kind === 'mute') {
      const lane = piece.lanes[target.place]
      if (lane) mutes.mute(lane.id, !lane.mute)
    }
    if (target.kind !== 'act') return
    if (target.act === 'play') void transport.toggle()
    if (target.act === 'stop') transport.stop()
    if (target.act === 'throw') void holds.throwAll()
    if (target.act === 'keep') void keeping.keep(keeping.bars)
  }

  // ---- Knobs ----

  /** What knobs said last: a thousand moves a second are one for the eye and the ear. */
  const moves = new Map<string, Move>()
  const { start: moveLater, isPending } = useTimeoutFn(() => moveNow(), TOGETHER, { immediate: false })
  function moveSoon(target: Target, share: number) {
    moves.set(keyOfTarget(target), { target, share })
    if (!isPending.value) moveLater()
  }
  const gestures = new Map<string, { name: string; at: number }>()
  function gestureOf(key: string): string {
    const now = performance.now()
    const last = gestures.get(key)
    const name = last && now - last.at < RESTS ? last.name : newGesture('knob')
    gestures.set(key, { name, at: now })
    return name
  }
  function moveNow() {
    const taken = [...moves]
    moves.clear()
    const waiting = new Map(learning.waiting)
    for (const [key, { target, share }] of taken) {
      const hold = holdAt(target)
      if (!hold || hold.value === null) continue
      const { low, high } = hold
      const value = Math.round(low + share * (high - low))
      const shareAt = (at: number) => (at - low) / (high - low)
      const isTaken = takeover.takes(key, share, shareAt(hold.value), shareAt(value))
      if (isTaken) waiting.delete(key)
      else waiting.set(key, share)
      if (isTaken && value !== hold.value) holds.move(hold, value, gestureOf(key))
    }
    learning.waiting = waiting
  }
  /** What a target takes hold of in the pattern on the table; null: nothing there. */
  function holdAt(target: Target): ControlHandle | null {
    const { document, pattern } = piece
    if (!document || !pattern) return null
    if (target.kind === 'hand') {
      const of = document.hands[target.place]
      return of ? handleOf(of, document, pattern, undefined) : null
    }
    if (target.kind !== 'control' || target.piece !== piece.id) return null
    const { lane = null, field, low, high, name } = target
    const known = (lane ? LANE_CONTROLS : PATTERN_CONTROLS).find((control) => control.field === field)
    const control = known ?? {
      field,
      name: name.split(': ').at(-1) ?? name,
      unit: '',
      low,
      high,
      options: [],
    }
    const hold = handleOf({ lane, control: field }, document, pattern, undefined, control)
    return hold && { ...hold, low, high }
  }
  // Another piece, another pattern: no knob has anything yet.
  watch([() => piece.id, () => piece.pattern?.id], () => {
    takeover.forget()
    learning.waiting = new Map()
  })

  // ---- Learning ----

  /** While learning is on, a press on a control learns it, and does nothing else. */
  useEventListener(
    document,
    'pointerdown',
    (event) => {
      const lanes = piece.pattern?.lanes ?? []
      const target =
        learning.isOn && event.target instanceof Element && targetAt(event.target, piece.id, lanes)
      if (!target) return
      event.preventDefault()
      event.stopPropagation()
      learning.wanted = target
      // The click that belongs to it.
      startSwallowing()
    },
    { capture: true },
  )
  const {
    start: startSwallowing,
    stop: swallowed,
    isPending: swallows,
  } = useTimeoutFn(() => undefined, 600, {
    immediate: false,
  })
  useEventListener(
    document,
    'click',
    (click) => {
      if (!swallows.value) return
      swallowed()
      click.preventDefault()
      click.stopPropagation()
    },
    { capture: true },
  )
  useEventListener(
    document,
    'keydown',
    (event) => {
      if (!learning.isOn || event.key !== 'Escape') return
      event.preventDefault()
      event.stopPropagation()
      learning.begin(false)
    },
    { capture: true },
  )
  // The screen says which controls can be learned: see base.css.
  watch(
    () => learning.isOn,
    (isOn) => document.documentElement.classList.toggle('learning', isOn),
  )
}

/** Which thing a message comes from; null where it comes from none that can be bound. */
export function thingOf(message: readonly number[]): Thing | null {
  const channel = channelOf(message)
  if (channel === null) return null
  if (isNoteOn(message) || isNoteOff(message)) return { message: 'note', channel, number: message[1] ?? 0 }
  const move = movedBy(message)
  if (!move) return null
  if (move.controller === PRESSURE) return { message: 'pressure', channel, number: 0 }
  if (move.controller === BEND) return { message: 'bend', channel, number: 0 }
  return { message: 'control', channel, number: move.controller }
}
/** How far a thing is turned, or how hard it was struck: 0 to 1. */
export function shareOf(message: readonly number[]): number {
  const move = movedBy(message)
  if (!move) return (message[2] ?? 0) / 127
  return move.controller === BEND ? (move.value + BENT) / (2 * BENT - 1) : move.value / 127
}

/** The simulated controller: keys, pads, eight knobs and a transport that send real messages, by hand or by a script. */
import { defineStore } from 'pinia'
import { onScopeDispose, ref } from 'vue'

import { CLOCK, CONTINUE, control, noteOff, noteOn, START, STOP, type Message } from '@/sound/midi/messages'
import { secondsOfPulse } from '@/sound/time'
import { SIMULATED_CONTROLLER, usePorts } from './ports'

/** What its things send: keys on the first channel, pads on the tenth, knobs by controllers that nothing is named for. */
const [KEYS, PADS] = [1, 10]
const FIRST_KNOB = 20
export const FIRST_PAD = 36
export const KNOBS = 8
export const PADS_SHOWN = 8

/** Milliseconds from its beginning, and what is sent then. */
export type Script = readonly (readonly [milliseconds: number, message: Message])[]

/** A phrase for the first moments: a chord that is broken up, a pad, a knob that goes up and comes back. */
export const PHRASE: Script = [
  ...[60, 64, 67, 72].flatMap((pitch, at) => [
    [at * 240, noteOn(KEYS, pitch, 80 + at * 10)] as const,
    [1600, noteOff(KEYS, pitch)] as const,
  ]),
  [300, noteOn(PADS, FIRST_PAD, 110)],
  [500, noteOff(PADS, FIRST_PAD)],
  ...Array.from(
    { length: 33 },
    (_, at) => [at * 50, control(KEYS, FIRST_KNOB, at < 17 ? 64 + at * 3 : 160 - at * 3)] as const,
  ),
]

export const useSimulatedController = defineStore('simulated controller', () => {
  const ports = usePorts()
  const knobs = ref<readonly number[]>(Array.from({ length: KNOBS }, () => 64))
  const down = ref<ReadonlySet<number>>(new Set())
  const padsDown = ref<ReadonlySet<number>>(new Set())
  /** Quarters a minute of its own clock; whether that runs. */
  const tempo = ref(120)
  const isRunning = ref(false)

  const send = (message: Message, timeStamp = performance.now()) =>
    ports.hear(SIMULATED_CONTROLLER, message, timeStamp)

  function key(pitch: number, isDown: boolean, velocity = 96) {
    if (down.value.has(pitch) === isDown) return
    down.value = isDown ? new Set([...down.value, pitch]) : without(down.value, pitch)
    send(isDown ? noteOn(KEYS, pitch, velocity) : noteOff(KEYS, pitch))
  }
  function pad(place: number, isDown: boolean, velocity = 110) {
    if (padsDown.value.has(place) === isDown) return
    padsDown.value = isDown ? new Set([...padsDown.value, place]) : without(padsDown.value, place)
    send(isDown ? noteOn(PADS, FIRST_PAD + place, velocity) : noteOff(PADS, FIRST_PAD + place))
  }
  function turn(place: number, value: number) {
    const within = Math.max(0, Math.min(127, Math.round(value)))
    if (knobs.value[place] === within) return
    knobs.value = knobs.value.with(place, within)
    send(control(KEYS, FIRST_KNOB + place, within))
  }
  const sustain = (isDown: boolean) => send(control(KEYS, 64, isDown ? 127 : 0))

  // ---- Its clock: each pulse is due at its own time, so that nothing adds up ----
  let began = 0
  let pulses = 0
  let timer = 0
  function run(message: Message) {
    if (isRunning.value) return
    isRunning.value = true
    began = performance.now()
    pulses = 0
    send(message, began)
    pulse()
  }
  function pulse() {
    const each = 1000 * secondsOfPulse(tempo.value)
    while (began + pulses * each <= performance.now()) send([CLOCK], began + pulses++ * each)
    timer = window.setTimeout(pulse, Math.max(1, began + pulses * each - performance.now()))
  }
  function setTempo(next: number) {
    // What was sent stays where it was.
    began = began + pulses * 1000 * (secondsOfPulse(tempo.value) - secondsOfPulse(next))
    tempo.value = next
  }
  function stop() {
    if (!isRunning.value) return
    isRunning.value = false
    clearTimeout(timer)
    send([STOP])
  }

  /** Send all of a script at its times. Returns what ends it. */
  function play(script: Script): () => void {
    const timers = script.map(([at, message]) => window.setTimeout(() => send(message), at))
    return () => timers.forEach(clearTimeout)
  }
  onScopeDispose(() => clearTimeout(timer))

  return {
    knobs, down, padsDown, tempo, isRunning,
    send, key, pad, turn, sustain, setTempo, stop, play,
    start: () => run([START]),
    goOn: () => run([CONTINUE]),
  } // prettier-ignore
})

const without = (all: ReadonlySet<number>, one: number) => new Set([...all].filter((other) => other !== one))

/** The ports: instruments that notes go to, controllers that play, and the clock that runs between them. */
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { useNotices } from '@/page/notices'
import type { Audio } from '@/sound/audio'
import { ClockIn } from '@/sound/midi/clockIn'
import { ClockOut, type Music } from '@/sound/midi/clockOut'
import { SimulatedInstrument, type Mood, type ReceivedMessage } from '@/sound/midi/instrument'
import { ACTIVE_SENSING, Reader, SYSTEM, type Message } from '@/sound/midi/messages'
import { MidiPort, type Instrument } from '@/sound/midi/midiPort'
import { requestMidi, type MidiAccess } from '@/sound/midi/webMidi'
import { BUILT_IN, SIMULATED, type Clock } from '@/sound/port'
import { usePiece } from '@/work/piece'
import { sounded } from './instrumentSound'

/** The controller that ships with the application. */
export const SIMULATED_CONTROLLER = 'simulated controller'
const FLOOD = 1000 // messages in a second

/** An instrument that is there, or was. `trouble`: why it takes nothing now; '' while it does. */
export interface Out {
  readonly name: string
  readonly port: MidiPort
  readonly clock: ClockOut
  readonly isThere: boolean
  readonly trouble: string
}
/** A message from a controller, when it came: milliseconds since the page was opened. */
export interface Heard {
  readonly from: string
  readonly message: Message
  readonly timeStamp: number
}
interface Input {
  readonly reader: Reader
  /** Since when messages are counted, and how many came. */
  since: number
  count: number
  isTold: boolean
}

export const usePorts = defineStore('ports', () => {
  const piece = usePiece()
  const notices = useNotices()
  const outs = shallowRef<ReadonlyMap<string, Out>>(new Map())
  const instrument = shallowRef<SimulatedInstrument | null>(null)
  const mood = ref<Mood>('well')
  /** What the simulated instrument has taken since recording began; null: it does not record. */
  const recording = shallowRef<{ readonly began: number; readonly taken: ReceivedMessage[] } | null>(null)
  const access = shallowRef<MidiAccess | null>(null)
  /** The names of the controllers that are there. */
  const inputs = ref<readonly string[]>([SIMULATED_CONTROLLER])
  /** The instruments that the clock goes to, and the controller that it comes from; '': it runs here. */
  const clockTo = useLocalStorage<string[]>('jolly-lattice-clock-to', [])
  const clockFrom = useLocalStorage('jolly-lattice-clock-from', '')
  const clockIn = shallowRef(new ClockIn())
  /** Whether its pulses come. */
  const isClockThere = ref(false)
  /** Told of all that controllers send, in the order in which it comes. */
  const onHeard = new Set<(heard: Heard) => void>()
  /** Told the name of a controller that is gone. */
  const onGone = new Set<(name: string) => void>()
  let audio: Audio | null = null
  const listening = new Map<string, () => void>()
  const known = new Map<string, Input>()

  /** The names that a lane's notes may go to: what is there, and what the piece names. */
  const names = computed(() => [
    ...new Set([BUILT_IN, SIMULATED, ...outs.value.keys(), ...namedPorts(piece.document)]),
  ])
  const clock = (): Clock | null => audio?.clock ?? null

  // ---- Instruments ----

  /** Plug in what is there; as soon as there is audio. */
  function begin(sound: Audio) {
    if (audio) return
    audio = sound
    const made = new SimulatedInstrument(sound.clock)
    made.onTaken.add(sounded(sound.port, () => piece.document?.kit ?? null))
    made.onTaken.add((one) => recording.value?.taken.push(one))
    instrument.value = made
    plug(SIMULATED, made)
    sound.port.onMissing = (name) => tell(name, `“${name}” is not there: the built-in sounds play for it.`)
    gather()
  }
  const told = new Map<string, string>()
  /** One sentence of what is the matter with a port, once. */
  function tell(name: string, said: string) {
    if (told.get(name) === said) return
    told.set(name, said)
    notices.complain(said)
  }

  function plug(name: string, to: Instrument) {
    if (!audio) return
    const before = outs.value.get(name)
    const holder = holders.get(name) ?? { to }
    holder.to = to
    holders.set(name, holder)
    const port =
      before?.port ??
      new MidiPort(audio.clock, { send: (...sent) => holder.to.send(...sent) }, (reason) =>
        troubled(name, reason),
      )
    const out = { name, port, clock: before?.clock ?? new ClockOut((...said) => port.tell(...said)) }
    outs.value = new Map(outs.value).set(name, { ...out, isThere: true, trouble: '' })
    audio.port.plug(name, port)
    told.delete(name)
  }
  /** What takes the messages of each port: another object when it comes back, while what is owed to it stays. */
  const holders = new Map<string, { to: Instrument }>()
  function unplug(name: string, said: string) {
    const out = outs.value.get(name)
    if (!out?.isThere) return
    outs.value = new Map(outs.value).set(name, { ...out, isThere: false, trouble: said })
    audio?.port.unplug(name)
    tell(name, said)
  }
  function troubled(name: string, reason: unknown) {
    const out = outs.value.get(name)
    const trouble = reason instanceof Error ? reason.message : String(reason)
    if (!out?.isThere || out.trouble === trouble) return
    outs.value = new Map(outs.value).set(name, { ...out, trouble })
    tell(name, `${trouble} Notes that sound there are ended as soon as it takes messages again.`)
  }
  function setMood(next: Mood) {
    if (!instrument.value) return
    mood.value = instrument.value.mood = next
    if (next === 'gone')
      unplug(SIMULATED, `The ${SIMULATED} is gone: the built-in sounds play for it until it is back.`)
    else plug(SIMULATED, instrument.value)
  }

  // ---- The browser's own MIDI ----

  /** Ask the browser for instruments and controllers. @throws Error that says why there are none. */
  async function ask(sound: Audio) {
    begin(sound)
    access.value = await requestMidi(sound.clock, gather)
    gather()
  }
  function gather() {
    if (!access.value || !audio) return
    const there = access.value.outputs()
    there.forEach(({ name, port }) => plug(name, port))
    const present = new Set([SIMULATED, ...there.map(({ name }) => name)])
    for (const name of outs.value.keys())
      if (!present.has(name))
        unplug(name, `“${name}” is gone: the built-in sounds play for it until it is back.`)
    const found = access.value.inputs()
    listening.forEach((stop) => stop())
    listening.clear()
    for (const { name, port } of found)
      listening.set(
        name,
        port.listen((bytes, timeStamp) => hear(name, bytes, timeStamp)),
      )
    const now = [SIMULATED_CONTROLLER, ...found.map(({ name }) => name)]
    for (const name of inputs.value) if (!now.includes(name)) gone(name)
    inputs.value = now
  }
  function gone(name: string) {
    known.delete(name)
    for (const tellOf of onGone) tellOf(name)
    notices.complain(`The controller “${name}” is gone: what it held is let go.`)
  }

  // ---- Controllers ----

  function hear(from: string, bytes: ArrayLike<number>, timeStamp = performance.now()) {
    const input = known.get(from) ?? { reader: new Reader(), since: timeStamp, count: 0, isTold: false }
    known.set(from, input)
    const broken = input.reader.broken
    for (const message of input.reader.read(bytes)) {
      if ((message[0] ?? 0) < ACTIVE_SENSING) heard({ from, message, timeStamp })
    }
    if (input.reader.broken > broken)
      tell(
        `broken ${from}`,
        `“${from}” sent a message that was cut short: it is left out, the rest is played.`,
      )
    watchFlood(from, input, timeStamp)
  }
  function heard(one: Heard) {
    if ((one.message[0] ?? 0) >= SYSTEM && one.from !== clockFrom.value) return
    for (const tellOf of onHeard) tellOf(one)
  }
  function watchFlood(from: string, input: Input, timeStamp: number) {
    input.count++
    if (timeStamp - input.since < 1000) return
    if (input.count > FLOOD && !input.isTold)
      notices.complain(
        `“${from}” sends ${input.count.toLocaleString('en')} messages a second: what its knobs say is taken together, sixty times a second.`,
      )
    input.isTold = input.count > FLOOD
    input.count = 0
    input.since = timeStamp
  }

  // ---- Time ----

  /** Hand over what is due; as often as the audio's ticker ticks. */
  function tick(music: Music | null) {
    const now = audio?.clock.now() ?? 0
    for (const { name, port, clock: of, isThere } of outs.value.values()) {
      if (music && isThere && clockTo.value.includes(name)) of.follow(music, now)
      else of.stop(now)
      port.tick()
    }
  }
  /** What sounds ends by itself, even if the page is not looked after for a while. */
  const secure = () => outs.value.forEach(({ port }) => port.secure())
  const silence = () => {
    const now = audio?.clock.now() ?? 0
    for (const { port, clock: of } of outs.value.values()) {
      of.stop(now)
      port.silence()
    }
  }
  const panic = () => outs.value.forEach(({ port }) => port.panic())
  useEventListener(document, 'visibilitychange', () => document.hidden && secure())
  useEventListener(document, 'freeze', silence)
  useEventListener(window, 'pagehide', silence)

  return {
    outs, instrument, mood, recording, access, inputs, names, clockTo, clockFrom, clockIn, isClockThere, onHeard, onGone,
    clock, begin, ask, setMood, hear, tick, silence, panic,
    beginClock: () => (clockIn.value = new ClockIn()),
  } // prettier-ignore
})

interface Named {
  readonly kit: { readonly port?: string | null }
  readonly patterns: readonly { readonly lanes: readonly { readonly port?: string | null }[] }[]
}
function namedPorts(document: Named | null): string[] {
  if (!document) return []
  const lanes = document.patterns.flatMap((pattern) => pattern.lanes)
  return [document.kit, ...lanes].flatMap(({ port }) => port ?? [])
}

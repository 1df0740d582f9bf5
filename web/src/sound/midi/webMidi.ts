/** The browser's own MIDI: instruments and controllers at this computer, asked for on a press. */
import type { Clock } from '../port'
import type { Message } from './messages'
import type { Instrument } from './midiPort'

/** What comes from a controller. `timeStamp`: milliseconds since the page was opened. */
export type Hear = (bytes: ArrayLike<number>, timeStamp: number) => void

/** A thing at this computer that takes messages, or sends them; two of one name are numbered. */
export interface Plugged<Of> {
  readonly name: string
  readonly port: Of
}

export interface MidiAccess {
  outputs(): Plugged<Instrument>[]
  inputs(): Plugged<{ listen(hear: Hear): () => void }>[]
}

/**
 * Ask the browser. `changed` is told when a thing comes or goes.
 * @throws Error that says why there is none, and what to do.
 */
export async function requestMidi(clock: Clock, changed: () => void): Promise<MidiAccess> {
  if (!('requestMIDIAccess' in navigator))
    throw new Error(
      'This browser has no MIDI of its own. The simulated instrument and MIDI files work everywhere.',
    )
  let access: MIDIAccess
  try {
    access = await navigator.requestMIDIAccess({ sysex: false })
  } catch (reason) {
    const isRefused = reason instanceof DOMException && /Security|NotAllowed/.test(reason.name)
    throw new Error(
      isRefused
        ? 'The browser may not use MIDI here: nothing is changed. Allow it beside the address, then ask again.'
        : 'The browser found no MIDI at this computer: nothing is changed. Plug an instrument in, then ask again.',
      { cause: reason },
    )
  }
  access.onstatechange = changed
  return {
    outputs: () => numbered([...access.outputs.values()].filter(isThere), (out) => outOf(out, clock)),
    inputs: () => numbered([...access.inputs.values()].filter(isThere), inOf),
  }
}

const isThere = ({ state }: MIDIPort) => state === 'connected'

/** Two of one name are told apart by a number; the first keeps its name, so that what is bound to it finds it. */
export function numbered<Of extends { name: string | null }, To>(
  all: readonly Of[],
  to: (one: Of) => To,
): Plugged<To>[] {
  const counts = new Map<string, number>()
  return all.map((one) => {
    const name = one.name?.trim() || 'no name'
    const count = (counts.get(name) ?? 0) + 1
    counts.set(name, count)
    return { name: count > 1 ? `${name} ${count}` : name, port: to(one) }
  })
}

function outOf(out: MIDIOutput, clock: Clock): Instrument {
  return {
    send(message: Message, time: number) {
      if (!isThere(out)) throw new Error(`“${out.name}” is gone.`)
      out.send([...message], stampOf(time, clock))
    },
  }
}

/** When something at `time` on the audio clock is, as the page counts. */
const stampOf = (time: number, clock: Clock) => 1000 * time - ahead(clock)
/** By how much the audio clock is ahead of the page's, in milliseconds: it goes on in leaps of its buffer. */
function ahead(clock: Clock): number {
  const off = 1000 * clock.now() - performance.now()
  const known = offsets.get(clock)
  // A leap forward is the truth of a moment ago; what lags is only not yet counted on.
  const held = known === undefined || off > known || known - off > FURTHEST ? off : known - DRIFT
  offsets.set(clock, held)
  return held
}
const offsets = new WeakMap<Clock, number>()
const FURTHEST = 50 // milliseconds
const DRIFT = 0.002 // by which it may be found earlier each time, so that it follows where the clocks drift

const inOf = (input: MIDIInput) => ({
  listen(hear: Hear) {
    const listener = (event: MIDIMessageEvent) => event.data && hear(event.data, event.timeStamp)
    input.addEventListener('midimessage', listener as EventListener)
    return () => input.removeEventListener('midimessage', listener as EventListener)
  },
})

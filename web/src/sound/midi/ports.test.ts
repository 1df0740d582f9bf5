// @vitest-environment node
/** The contract of a port, run against all kinds; and that no note is ever left sounding. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { PLAIN_VOICE } from '@/work/document'
import { BUILT_IN, SIMULATED, type Port, type Strike } from '../port'
import { Switchboard } from '../switchboard'
import { SimulatedInstrument, SLOWNESS, stillSounding, type ReceivedMessage } from './instrument'
import { isNoteOff, isNoteOn } from './messages'
import { HANDED_AHEAD, MidiPort } from './midiPort'
import { numbered, requestMidi } from './webMidi'

let now = 10
const PAGE_BEGAN = 500
const clock = { now: () => now }
/** Let time pass as the ticker does, with all of `ports` looked after. */
function pass(seconds: number, ...ports: MidiPort[]) {
  const end = now + seconds
  while (now < end - 1e-9) {
    now = Math.min(end, now + 0.03)
    ports.forEach((port) => port.tick())
  }
}
const voice = { id: 'thud', name: 'Thud', ...PLAIN_VOICE, pitch: 36 }
const aNote = (fields: Partial<Strike> = {}): Strike => ({
  part: 'thud', port: SIMULATED, voice, semitones: 0, pitch: 36, velocity: 100, channel: 10, tone: null,
  level: 0, pan: 0, room: 0, time: now + 0.05, end: now + 0.3, ...fields,
}) // prettier-ignore

/** A browser's MIDI that remembers what it was sent. */
function aBrowser(names: readonly string[] = ['Quay synth']) {
  const sent: { name: string; data: number[]; stamp: number }[] = []
  const outputs = new Map(
    names.map((name, at) => [
      `${at}`,
      {
        name,
        state: 'connected',
        send: (data: number[], stamp: number) => void sent.push({ name, data, stamp }),
      },
    ]),
  )
  const access = { outputs, inputs: new Map(), onstatechange: null }
  Object.defineProperty(globalThis, 'navigator', {
    value: { requestMIDIAccess: async () => access },
    configurable: true,
  })
  return { sent, outputs, access }
}

interface Kind {
  readonly port: MidiPort
  taken(): ReceivedMessage[]
}
/** Each kind of port that speaks MIDI, and what its other end was given. */
const KINDS: Record<string, () => Promise<Kind>> = {
  'simulated instrument': async () => {
    const instrument = new SimulatedInstrument(clock)
    return { port: new MidiPort(clock, instrument), taken: () => [...instrument.gather()] }
  },
  'the browser’s MIDI': async () => {
    const { sent } = aBrowser()
    const access = await requestMidi(clock, () => undefined)
    const [out] = access.outputs()
    // The page counts from another beginning, at the same pace.
    vi.spyOn(performance, 'now').mockImplementation(() => 1000 * now + PAGE_BEGAN)
    return {
      port: new MidiPort(clock, out!.port),
      taken: () =>
        sent.map(({ data, stamp }) => ({ message: data, time: (stamp - PAGE_BEGAN) / 1000, handed: now })),
    }
  },
}

beforeEach(() => (now = 10))
afterEach(() => vi.restoreAllMocks())

describe.each(Object.entries(KINDS))('%s', (_name, make) => {
  it('begins and ends each note once, off before on where they meet', async () => {
    const { port, taken } = await make()
    port.strike(aNote({ time: 10.1, end: 10.4 }))
    port.strike(aNote({ time: 10.4, end: 10.5 }))
    pass(1, port)
    expect(taken().map(({ message }) => [...message])).toEqual([
      [0x99, 36, 100],
      [0x89, 36, 0],
      [0x99, 36, 100],
      [0x89, 36, 0],
    ])
    expect(port.sounding).toBe(0)
  })

  it('hands messages over ahead of their times, none later than its own', async () => {
    const { port, taken } = await make()
    for (let at = 0; at < 40; at++)
      port.strike(aNote({ time: now + 0.1 + at * 0.02, end: now + 0.11 + at * 0.02 }))
    pass(2, port)
    expect(taken()).toHaveLength(80)
    expect([port.late, port.handed]).toEqual([0, 80])
  })

  it('never sounds what is cut before its beginning', async () => {
    const { port, taken } = await make()
    const sounding = port.strike(aNote({ time: 10.2, end: 10.4 }))
    pass(0.09, port)
    sounding.cut(now)
    pass(1, port)
    expect(taken()).toEqual([])
  })

  it('ends what is cut while it sounds there and then, once', async () => {
    const { port, taken } = await make()
    const sounding = port.strike(aNote({ time: 10.05, end: 12 }))
    pass(0.3, port)
    sounding.cut(now)
    pass(2, port)
    expect(taken().map(({ message }) => isNoteOff(message))).toEqual([false, true])
    expect(port.sounding).toBe(0)
  })

  it('moves controllers before the note that begins with them', async () => {
    const { port, taken } = await make()
    port.strike(aNote({ time: 10.1, channel: 3 }))
    port.move({ part: 'x', port: '', channel: 3, controller: 74, value: 9, time: 10.1 })
    port.choose({ part: 'x', port: '', channel: 3, program: { number: 2, bank: null }, time: 10 })
    pass(0.2, port)
    expect(taken().map(({ message }) => [...message])).toEqual([
      [0xc2, 1],
      [0xb2, 74, 9],
      [0x92, 36, 100],
    ])
  })

  it('is silent at once when it is told to, pedals up and nothing bent', async () => {
    const { port, taken } = await make()
    port.strike(aNote({ time: 10.05, end: 20 }))
    port.strike(aNote({ pitch: 40, time: 10.4, end: 20 }))
    port.move({ part: 'x', port: '', channel: 10, controller: 64, value: 127, time: 10.05 })
    pass(0.2, port)
    port.silence()
    pass(1, port)
    expect(stillSounding(taken())).toEqual([])
    expect(taken().filter(({ message }) => isNoteOn(message))).toHaveLength(1)
    expect(taken().map(({ message }) => [...message])).toContainEqual([0xb9, 64, 0])
  })

  it('hands over what ends its notes when nobody may look after it', async () => {
    const { port, taken } = await make()
    port.strike(aNote({ time: 10.05, end: 15 }))
    pass(0.2, port)
    port.secure()
    expect(taken().map(({ message }) => isNoteOff(message))).toEqual([false, true])
    expect(taken().at(-1)!.time).toBeCloseTo(15, 2)
  })
})

describe('trouble', () => {
  it('is told once; what sounds is ended as soon as messages are taken again', () => {
    const instrument = new SimulatedInstrument(clock)
    const told: string[] = []
    const port = new MidiPort(clock, instrument, (reason) => told.push((reason as Error).message))
    port.strike(aNote({ time: 10.05, end: 10.3 }))
    pass(0.1, port)
    instrument.mood = 'full'
    port.strike(aNote({ pitch: 40, time: 10.2, end: 10.4 }))
    pass(2, port)
    expect(new Set(told)).toEqual(new Set(['The simulated instrument takes no more messages: it is full.']))
    expect(stillSounding(instrument.gather())).toEqual(['9 36'])
    instrument.mood = 'well'
    pass(0.2, port)
    expect(stillSounding(instrument.gather())).toEqual([])
    expect(instrument.gather().filter(({ message }) => isNoteOn(message))).toHaveLength(1)
  })

  it('of one that is slow makes all of it late, and loses none', () => {
    const instrument = new SimulatedInstrument(clock)
    instrument.mood = 'slow'
    const port = new MidiPort(clock, instrument)
    port.strike(aNote({ time: 10.1, end: 10.3 }))
    pass(1, port)
    expect(instrument.gather().map(({ time }) => time)).toEqual([10.1 + SLOWNESS, 10.3 + SLOWNESS])
  })

  it('of the browser is said in a sentence', async () => {
    Object.defineProperty(globalThis, 'navigator', { value: {}, configurable: true })
    await expect(requestMidi(clock, () => undefined)).rejects.toThrow('no MIDI of its own')
    const refuse = async () => Promise.reject(new DOMException('', 'NotAllowedError'))
    Object.defineProperty(globalThis, 'navigator', {
      value: { requestMIDIAccess: refuse },
      configurable: true,
    })
    await expect(requestMidi(clock, () => undefined)).rejects.toThrow('may not use MIDI here')
  })

  it('does not arise from two of one name: they are numbered', async () => {
    aBrowser(['Reed box', 'Reed box', 'Quay synth'])
    const access = await requestMidi(clock, () => undefined)
    expect(access.outputs().map(({ name }) => name)).toEqual(['Reed box', 'Reed box 2', 'Quay synth'])
    expect(numbered([{ name: null }], () => 0)[0]!.name).toBe('no name')
  })
})

describe('the switchboard', () => {
  it('gives each note to its port, and to the built-in sounds what has none', () => {
    const given: string[] = []
    const aPort = (name: string): Port => ({
      strike: ({ port }) => (given.push(`${name} for ${port}`), { cut: () => undefined }),
      move: () => undefined,
    })
    const board = new Switchboard(aPort('built-in'))
    const missing: string[] = []
    board.onMissing = (name) => missing.push(name)
    board.plug(SIMULATED, aPort('simulated'))
    for (const port of [BUILT_IN, SIMULATED, 'Reed box']) board.strike(aNote({ port }))
    expect(given).toEqual([`built-in for ${BUILT_IN}`, `simulated for ${SIMULATED}`, 'built-in for Reed box'])
    expect(missing).toEqual(['Reed box'])
  })
})

it('tells an instrument that comes late, or back, what it was to choose, and once only', () => {
  const board = new Switchboard({ strike: () => ({ cut: () => undefined }), move: () => undefined })
  const told: number[] = []
  const port = { ...board, strike: board.strike, move: board.move, choose: () => void told.push(1) } as Port
  board.choose({ part: 'x', port: 'Reed box', channel: 2, program: { number: 4, bank: null }, time: 0 })
  board.plug('Quay synth', port)
  expect(told).toHaveLength(0)
  board.plug('Reed box', port)
  board.plug('Reed box', port)
  expect(told).toHaveLength(1)
  board.unplug('Reed box')
  board.plug('Reed box', port)
  expect(told).toHaveLength(2)
})

it('leaves no note sounding on a night of a thousand random actions', () => {
  let seed = 20_261
  const random = (end: number) => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) % end
  const instrument = new SimulatedInstrument(clock)
  const port = new MidiPort(clock, instrument)
  const board = new Switchboard(port)
  let struck = 0
  let sounding: { cut(time: number): void; letGo?(time: number): void }[] = []
  for (let action = 0; action < 1000; action++) {
    switch (random(12)) {
      case 0:
        sounding.forEach((one) => one.cut(now))
        sounding = []
        break
      case 1:
        sounding[random(sounding.length || 1)]?.letGo?.(now)
        break
      case 2:
        instrument.mood = (['well', 'well', 'slow', 'full', 'gone'] as const)[random(5)] ?? 'well'
        break
      case 3:
        if (random(8) === 0) board.silence()
        break
      case 4:
        port.secure()
        break
      case 5:
        if (random(10) === 0) port.panic()
        break
      case 6:
        port.move({
          part: '',
          port: '',
          channel: 1 + random(3),
          controller: 64,
          value: random(128),
          time: now,
        })
        break
      default:
        struck++
        sounding.push(
          board.strike(
            aNote({
              pitch: 36 + random(20),
              channel: 1 + random(3),
              time: now + random(100) / 1000,
              end: now + 0.1 + random(3000) / 1000,
            }),
          ),
        )
    }
    sounding = sounding.slice(-40)
    pass(random(90) / 1000, port)
  }
  instrument.mood = 'well'
  port.silence()
  pass(HANDED_AHEAD * 3, port)
  const taken = instrument.gather().filter(({ time }) => time <= now + SLOWNESS)
  expect(struck).toBeGreaterThan(300)
  expect(taken.filter(({ message }) => isNoteOn(message)).length).toBeGreaterThan(100)
  expect(port.sounding).toBe(0)
  expect(stillSounding(taken)).toEqual([])
})

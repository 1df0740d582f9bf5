import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, shallowRef } from 'vue'

import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'

import type { Lane, LanePicture } from '@/api/client'
import { onArrival } from '@/engine/onArrival'
import { useShortcutState } from '@/page/useShortcuts'
import { useHeldKeys } from '@/playing/heldKeys'
import { aLane, aPicture, takePiece } from '@/testing'
import { aServer, settle } from '@/testingServer'
import { downKeys, isPedalDown } from '@/playing/timeline'
import { useKeys } from './useKeys'

const soundKey = vi.hoisted(() =>
  vi.fn<(...said: unknown[]) => Promise<() => void>>(async () => () => undefined),
)
vi.mock('@/playing/useTrying', () => ({ useTrying: () => ({ soundKey }) }))

let server: ReturnType<typeof aServer>
beforeEach(() => {
  setActivePinia(createPinia())
  server = aServer()
})
afterEach(() => vi.unstubAllGlobals())

const FIRST_KEY = 'KeyZ'
const held = (id: string): Lane =>
  aLane(id, { arpeggio: { pool: { kind: 'held', latch: 'replace' }, order: 'up' } as never })

function setUp(...chosen: string[]) {
  const piece = takePiece(held('reed'), held('bell'), aLane('thud'))
  const recording = { struck: vi.fn(), released: vi.fn() }
  const scope = effectScope()
  const pictures = shallowRef<readonly LanePicture[]>([])
  const strike = vi.fn()
  const keys = scope.run(() =>
    useKeys(
      () => piece.lanes.filter(({ id }) => chosen.includes(id)),
      (laneId) => onArrival(() => pictures.value.find(({ id }) => id === laneId)),
      recording as never,
      strike,
    ),
  )!
  const down = (id: string) => downKeys(useHeldKeys().keysOf(id))
  return { piece, keys, recording, scope, down, pictures, strike }
}

it('reach the chosen lanes and no others', () => {
  const { keys, down } = setUp('reed')
  keys.press(60)
  keys.press(64)
  expect([down('reed'), down('bell'), down('thud')]).toEqual([[60, 64], [], []])
  keys.release(60)
  expect(down('reed')).toEqual([64])
})

it('are struck once, however often they are pressed, and only those that MIDI has', () => {
  const { keys, recording } = setUp('reed')
  for (const key of [60, 60, -1, 128]) keys.press(key, 77)
  expect(recording.struck.mock.calls.map(([key, hard]) => [key, hard])).toEqual([[60, 77]])
  expect(useHeldKeys().keysOf('reed').held.length).toBe(1)
})

it('go by where they lie on the keyboard, and never while a name is typed', () => {
  const { keys, down, scope } = setUp('reed')
  const press = (code: string, target: EventTarget = document.body, fields: KeyboardEventInit = {}) =>
    target.dispatchEvent(new KeyboardEvent('keydown', { code, bubbles: true, cancelable: true, ...fields }))
  document.body.innerHTML = '<input id="name">'
  press(FIRST_KEY, document.getElementById('name')!)
  press(FIRST_KEY, document.body, { ctrlKey: true })
  expect(down('reed')).toEqual([])
  press(FIRST_KEY)
  const [key] = down('reed')
  expect(key).toBe(keys.firstKey.value)
  keys.turnOctave(1)
  window.dispatchEvent(new KeyboardEvent('keyup', { code: FIRST_KEY }))
  expect(down('reed')).toEqual([]) // the one that was struck, wherever the octave is now
  scope.stop()
})

it('come one after the other where nothing plays, so that a chord stays in order', () => {
  const { keys } = setUp('reed')
  for (const key of [62, 66, 69]) keys.press(key)
  const starts = useHeldKeys()
    .keysOf('reed')
    .held.map(({ start }) => start)
  expect(starts).toEqual([...starts].sort((one, other) => one - other))
  expect(new Set(starts).size).toBe(3)
})

it('sound at the port of their lane, also where the engine has still to say which that is', async () => {
  const { keys, pictures, strike } = setUp('reed')
  keys.press(60, 77)
  await settle()
  pictures.value = [aPicture({ id: 'bell', tone: {} as never })]
  await settle()
  expect(soundKey).not.toHaveBeenCalled()
  pictures.value = [aPicture({ id: 'reed', tone: {} as never, port: 'quay', plays_on: 7 })]
  await settle()
  expect(soundKey.mock.calls.map(([lane, , ...said]) => [(lane as Lane).id, ...said])).toEqual([
    ['reed', 60, 77, { port: 'quay', channel: 7 }],
  ])
  expect(strike).not.toHaveBeenCalled()
})

it('strike the kit where their lane has no pitched voice', async () => {
  const { keys, pictures, strike } = setUp('thud')
  pictures.value = [aPicture({ id: 'thud' })]
  keys.press(36, 90)
  await settle()
  expect(strike.mock.calls).toEqual([[36, 90]])
})

it('wait for a change of the latch that is on its way', async () => {
  const { keys, down } = setUp('reed')
  let end = () => {}
  const change = keys.changeLatch(() => new Promise<void>((resolve) => (end = resolve)))
  keys.press(60)
  expect(down('reed')).toEqual([])
  end()
  await change
  expect(down('reed')).toEqual([60])
})

it('are held by the pedal of the chosen lanes, and let go by one press', () => {
  const { keys, down } = setUp('reed', 'bell')
  keys.press(60)
  keys.sustain(true)
  expect(['reed', 'bell', 'thud'].map((id) => isPedalDown(useHeldKeys().keysOf(id)))).toEqual([
    true,
    true,
    false,
  ])
  keys.letAllGo()
  expect([down('reed'), isPedalDown(useHeldKeys().keysOf('bell')), useHeldKeys().keysOf('reed').let_go.length]).toEqual([[], false, 1]) // prettier-ignore
})

it('are all let go when the keyboard closes, and the letters are shortcuts again', async () => {
  const { keys, down, scope } = setUp('reed')
  keys.press(60)
  expect(useShortcutState().lettersPlay).toBe(true)
  scope.stop()
  await settle()
  expect([down('reed'), useHeldKeys().handsDown.size, useShortcutState().lettersPlay]).toEqual([[], 0, false])
  expect(server.to('/api/melody/gather').length).toBeGreaterThan(0)
})

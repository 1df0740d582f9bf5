import { mount } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { ref } from 'vue'

import { vTip } from '@/page/tip'
import KeyBoard from './KeyBoard.vue'

const keyOf = (pitch: number) => ({
  pitch,
  name: `C${pitch}`,
  letter: 'C',
  in_scale: true,
  is_root: true,
  is_black: false,
  voice: null,
})

function aKeyboard() {
  const keys = { velocity: ref(90), down: ref(new Set()), firstKey: ref(0), press: vi.fn(), release: vi.fn() }
  const all = [keyOf(0), keyOf(12)]
  const wrapper = mount(KeyBoard, {
    props: { keys, all, shown: all, held: [], strikesKit: false, voices: new Map() } as never,
    global: { directives: { tip: vTip } },
  })
  const key = wrapper.get('.key')
  Object.assign(key.element, {
    setPointerCapture: vi.fn(),
    getBoundingClientRect: () => ({ top: 100, height: 200 }),
  })
  return { key, keys }
}

it.each([
  [100, 40],
  [200, 80],
  [300, 120],
  [999, 120],
  [0, 40],
])('a key pressed at %i is struck with %i', async (y, velocity) => {
  const { key, keys } = aKeyboard()
  await key.trigger('pointerdown', { button: 0, clientY: y })
  expect(keys.press.mock.calls[0]!.slice(0, 2)).toEqual([0, velocity])
})

it('with Enter it is struck as hard as is set, once for as long as it is down', async () => {
  const { key, keys } = aKeyboard()
  await key.trigger('keydown', { key: 'Enter' })
  await key.trigger('keydown', { key: 'Enter', repeat: true })
  expect(keys.press.mock.calls.map(([pitch, velocity]) => [pitch, velocity])).toEqual([[0, 90]])
  await key.trigger('keyup', { key: 'Enter' })
  expect(keys.release).toHaveBeenCalledOnce()
})

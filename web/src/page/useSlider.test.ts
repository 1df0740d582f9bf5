import { expect, it, vi } from 'vitest'

import { useSlider } from './useSlider'

function setUp(value: number | null = 50) {
  const state = { value }
  const moves: [number, string][] = []
  const cancel = vi.fn()
  const slider = useSlider({
    name: 'level', value: () => state.value, min: () => 0, max: () => 120, plain: 7, coarse: 5, cancel,
    unitsOf: ({ up, isSlow }) => up * (isSlow ? 0.1 : 1),
    move: (to, gesture) => {
      state.value = to
      moves.push([to, gesture])
    },
  }) // prettier-ignore
  const element = document.createElement('div')
  element.setPointerCapture = () => undefined
  const pointer = (fields: Partial<PointerEvent>) =>
    ({ button: 0, currentTarget: element, preventDefault: () => undefined, clientX: 0, clientY: 0, ...fields }) as PointerEvent // prettier-ignore
  const key = (key: string, fields: KeyboardEventInit = {}) =>
    slider.on.onKeydown(new KeyboardEvent('keydown', { key, ...fields }))
  return { slider, state, moves, cancel, pointer, key }
}

it('is stepped by keys, within its ends', () => {
  const { key, moves } = setUp()
  const keys = ['ArrowRight', 'ArrowUp', 'PageDown', 'End', 'ArrowUp', 'Home', 'ArrowLeft', 'Delete']
  for (const one of keys) key(one)
  expect(moves.map(([to]) => to)).toEqual([51, 56, 44, 120, 0, 7])
})

it('leaves keys to others that are not its own', () => {
  const { key, moves } = setUp()
  key('ArrowUp', { ctrlKey: true })
  key('x')
  expect(moves).toEqual([])
})

it('follows a drag once it has gone a little, slowly with Shift, as one gesture that Escape takes back', () => {
  const { slider, moves, cancel, pointer, key } = setUp()
  slider.on.onPointerdown(pointer({ clientY: 100 }))
  slider.on.onPointermove(pointer({ clientY: 98 }))
  expect(moves).toEqual([])
  slider.on.onPointermove(pointer({ clientY: 90 }))
  slider.on.onPointermove(pointer({ clientY: 60, shiftKey: true }))
  expect(moves.map(([to]) => to)).toEqual([60, 54])
  expect(new Set(moves.map(([, gesture]) => gesture)).size).toBe(1)
  key('Escape')
  expect(cancel).toHaveBeenCalledWith(moves[0]![1])
})

it('is turned by the wheel, finely with Shift', () => {
  const { slider, moves } = setUp()
  slider.onWheel(new WheelEvent('wheel', { deltaY: -100 }))
  slider.onWheel({ deltaY: 100, shiftKey: true } as WheelEvent)
  expect(moves.map(([to]) => to)).toEqual([52, 51])
})

it('with nothing to move moves nothing', () => {
  const { slider, moves, pointer, key } = setUp(null)
  key('ArrowUp')
  slider.on.onPointerdown(pointer({}))
  slider.on.onPointermove(pointer({ clientY: -50 }))
  expect(moves).toEqual([])
})

import { expect, test, vi } from 'vitest'

import { useDrag } from './useDrag'

const at = (clientX: number, clientY: number, button = 0) => {
  const currentTarget = document.createElement('div')
  currentTarget.setPointerCapture = vi.fn()
  return { clientX, clientY, button, pointerId: 1, currentTarget } as Partial<PointerEvent> as PointerEvent
}

test('what is taken is told of each move, and at the end whether it was let go of or taken away', () => {
  const [move, end] = [vi.fn(), vi.fn()]
  const { on } = useDrag(() => ({ move, end }))
  on.onPointermove(at(5, 5))
  expect(move).not.toHaveBeenCalled()
  on.onPointerdown(at(0, 0))
  on.onPointermove(at(1, 1))
  on.onPointerup()
  expect([move.mock.calls.length, end.mock.calls]).toEqual([1, [[false]]])
  on.onPointerdown(at(0, 0))
  on.onPointercancel()
  expect(end).toHaveBeenLastCalledWith(true)
  on.onPointerup()
  expect(end).toHaveBeenCalledTimes(2)
})

test('another button, and a place where there is nothing, take nothing; what is dropped never ends', () => {
  const end = vi.fn()
  const drag = useDrag(({ clientX }) => (clientX ? { move: vi.fn(), end } : null))
  drag.on.onPointerdown(at(3, 0, 2))
  expect(drag.isHeld()).toBe(false)
  drag.on.onPointerdown(at(0, 0))
  expect(drag.isHeld()).toBe(false)
  drag.on.onPointerdown(at(3, 0))
  drag.drop()
  drag.on.onPointerup()
  expect(end).not.toHaveBeenCalled()
})

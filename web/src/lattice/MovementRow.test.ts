import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import 'fake-indexeddb/auto'

import { aLane, aPicture, takePiece } from '@/testing'
import MovementRow from './MovementRow.vue'

/** Eight pixels above and below what a value may be, in a row of 48. */
const [TOP, MIDDLE, BOTTOM] = [8, 24, 40]
const scale = { firstTick: 0, endTick: 1000, width: 1028 }

beforeEach(() => {
  setActivePinia(createPinia())
  Element.prototype.setPointerCapture = vi.fn()
})

function aRow() {
  const movement = { control: 'velocity', loop_bars: null, off: false, points: [[0, 100], [500, 50]] } as const // prettier-ignore
  const lane = aLane('thud', { movements: [movement] as never })
  const piece = takePiece(lane)
  const shown = {
    control: 'velocity', name: 'velocity', low: 1, high: 127, off: false, options: [], places: [0, 1], says: ['100', '50'], shares: [0.8, 0.4], ticks: [0, 500],
  } // prettier-ignore
  const wrapper = mount(MovementRow, {
    props: { lane, picture: aPicture({ id: 'thud', movements: [shown] }), scale, ink: 'red' },
  })
  const points = () => piece.lanes[0]!.movements![0]!.points
  return { svg: wrapper.get('svg'), point: wrapper.findAll('[data-place]'), points }
}

it.each([
  [TOP, 127],
  [MIDDLE, 64],
  [BOTTOM, 1],
])('a press %i pixels down adds a point of %i', async (y, value) => {
  const { svg, points } = aRow()
  await svg.trigger('pointerdown', { button: 0, clientX: 14 + 250, clientY: y })
  expect(points()).toEqual([[0, 100], [250, value], [500, 50]]) // prettier-ignore
})

it('a point is dragged along and up, within what its control may be', async () => {
  const { point, points } = aRow()
  await point[1]!.trigger('pointerdown', { button: 0, clientX: 514, clientY: 30 })
  await point[1]!.trigger('pointermove', { clientX: 614, clientY: -100 })
  expect(points()).toEqual([[0, 100], [600, 127]]) // prettier-ignore
})

it('keys move a point by one and by ten, along the thread, and take it out', async () => {
  const { point, points } = aRow()
  await point[1]!.trigger('keydown', { key: 'ArrowUp' })
  expect(points()[1]).toEqual([500, 51])
  await point[1]!.trigger('keydown', { key: 'PageDown' })
  expect(points()[1]![1]).toBeLessThan(51)
  await point[1]!.trigger('keydown', { key: 'Delete' })
  expect(points()).toEqual([[0, 100]])
})

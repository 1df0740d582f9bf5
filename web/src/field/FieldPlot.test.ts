import { mount } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'

import type { FieldPicture } from '@/engine/around'
import FieldPlot from './FieldPlot.vue'

const start = { number: -1, syncopation: 0.2, hits_a_bar: 20, evenness: 1, distance: 0 }

it('a box is drawn where the hand drags, wherever the field stands on the page', async () => {
  const field = { start, points: [] } as Partial<FieldPicture> as FieldPicture
  const wrapper = mount(FieldPlot, {
    props: { field, isBehind: false, axes: 'beat', pointed: null, heard: [], theme: 'day' },
  })
  const plot = wrapper.get('.plot')
  Object.assign(plot.element, {
    setPointerCapture: vi.fn(),
    getBoundingClientRect: () => ({ left: 30, top: 100 }),
  })
  await plot.trigger('pointerdown', { button: 0, clientX: 130, clientY: 250 })
  await plot.trigger('pointermove', { clientX: 180, clientY: 150 })
  const box = wrapper.get('rect.box').attributes()
  expect([box['x'], box['y'], box['width'], box['height']]).toEqual(['100', '50', '50', '100'])
})

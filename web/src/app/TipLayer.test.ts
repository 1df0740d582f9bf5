import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, ref, withDirectives } from 'vue'

import { vTip } from '@/page/tip'
import TipLayer from './TipLayer.vue'

const said = ref('')
const screen = defineComponent(() => () => [
  withDirectives(h('button', { id: 'mute' }, [h('b', 'M')]), [[vTip, said.value]]),
  h('p', { id: 'beside' }),
  h(TipLayer),
])
const at = (selector: string) => document.querySelector(selector)!
const point = (selector: string, fields: PointerEventInit = {}) =>
  at(selector).dispatchEvent(
    new PointerEvent('pointerover', { bubbles: true, pointerType: 'mouse', ...fields }),
  )
let mounted: ReturnType<typeof mount>

beforeEach(() => {
  vi.useFakeTimers()
  said.value = 'Mute: this lane falls silent at once (M)'
  mounted = mount(screen, { attachTo: document.body })
})
afterEach(() => {
  mounted.unmount()
  vi.useRealTimers()
})
const tip = () => document.querySelector('[role=tooltip]')?.textContent
const rest = () => vi.advanceTimersByTimeAsync(800)

describe('the tip', () => {
  it('is there once the pointer rests on a control, or on what is in it, and describes that', async () => {
    point('#mute b')
    await vi.advanceTimersByTimeAsync(300)
    expect(tip()).toBeUndefined()
    await rest()
    expect(tip()).toBe(said.value)
    expect(at('#mute').getAttribute('aria-describedby')).toBe(at('[role=tooltip]').id)
    point('#beside')
    await rest()
    expect(tip()).toBeUndefined()
    expect(at('#mute').hasAttribute('aria-describedby')).toBe(false)
  })

  it('does not come when the pointer only passes, on to what has none or out of the page', async () => {
    for (const leave of [
      () => point('#beside'),
      () => at('#mute').dispatchEvent(new PointerEvent('pointerout', { bubbles: true, relatedTarget: null })),
    ]) {
      point('#mute')
      await vi.advanceTimersByTimeAsync(300)
      leave()
      await rest()
      expect(tip()).toBeUndefined()
    }
  })

  it('goes at a press or a key, and does not come for a finger', async () => {
    for (const event of [new Event('pointerdown'), new Event('keydown')]) {
      point('#mute')
      await rest()
      expect(tip()).toBeDefined()
      document.dispatchEvent(event)
      await rest()
      expect(tip()).toBeUndefined()
    }
    point('#mute', { pointerType: 'touch' })
    await rest()
    expect(tip()).toBeUndefined()
  })

  it('says what the control says now, and nothing where it says nothing', async () => {
    said.value = 'Unmute'
    await rest()
    point('#mute')
    await rest()
    expect(tip()).toBe('Unmute')
    // Also while the pointer rests on it.
    said.value = 'Mute'
    await rest()
    expect(tip()).toBe('Mute')
    said.value = ''
    await rest()
    expect(tip()).toBeUndefined()
    expect(at('#mute').hasAttribute('aria-describedby')).toBe(false)
    point('#beside')
    await rest()
    point('#mute')
    await rest()
    expect(tip()).toBeUndefined()
  })
})

import { expect, it } from 'vitest'
import { createApp, defineComponent, h, nextTick } from 'vue'

import { useRovingRows } from './useRovingRows'

function setUp() {
  const host = document.body.appendChild(document.createElement('div'))
  const Rows = defineComponent(() => {
    const rows = useRovingRows(['one', 'two', 'three'])
    const row = (id: string) =>
      h('li', { 'data-row': id }, [
        h('button', { tabindex: rows.stopOf(id) }, `hear ${id}`),
        ...(id === 'two' ? [] : [h('button', { tabindex: rows.stopOf(id) }, `remove ${id}`)]),
        h('input', { tabindex: rows.stopOf(id) }),
      ])
    return () => h('ul', rows.on, ['one', 'two', 'three'].map(row))
  })
  createApp(Rows).mount(host)
  const at = (said: string) => [...host.querySelectorAll('button')].find((one) => one.textContent === said)!
  const stops = () =>
    [...host.querySelectorAll('button')].filter((one) => one.tabIndex === 0).map((one) => one.textContent)
  async function press(key: string) {
    document.activeElement?.dispatchEvent(
      new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
    )
    await nextTick()
  }
  return { at, stops, press, host }
}
const here = () => document.activeElement?.textContent

it('are one stop: the first of them, then the one where the focus was last', async () => {
  const { at, stops } = setUp()
  expect(stops()).toEqual(['hear one', 'remove one'])
  at('hear three').focus()
  await nextTick()
  expect(stops()).toEqual(['hear three', 'remove three'])
})

it('are walked up and down, to the same control or the last there is, and not off their ends', async () => {
  const { at, press, host } = setUp()
  at('remove one').focus()
  await press('ArrowUp')
  expect(here()).toBe('remove one')
  await press('ArrowDown')
  expect(document.activeElement).toBe(host.querySelectorAll('input')[1]) // row two has no second button
  await press('ArrowDown')
  expect(document.activeElement).toBe(host.querySelectorAll('input')[1]) // a field has the key for itself
  at('hear two').focus()
  await press('ArrowDown')
  expect(here()).toBe('hear three')
})

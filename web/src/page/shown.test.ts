import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { h, ref, withDirectives } from 'vue'

import { vShown } from './shown'

function field() {
  const value = ref<string | number>(1)
  const frame = ref(0)
  const wrapper = mount(
    () => h('p', { title: `${frame.value}` }, [withDirectives(h('input'), [[vShown, value.value]])]),
    { attachTo: document.body },
  )
  const input = wrapper.get('input').element
  /** As a hand does: no change is told before it is left or taken. */
  const type = (text: string) => {
    input.focus()
    input.value = text
  }
  const take = () => input.dispatchEvent(new Event('change'))
  const draw = async (now: string | number = value.value) => {
    value.value = now
    frame.value++
    await wrapper.vm.$nextTick()
  }
  return { input, type, take, draw }
}

it('shows its value, also while it has the focus', async () => {
  const { input, draw } = field()
  input.focus()
  await draw(2)
  expect(input.value).toBe('2')
})

it('leaves what is being typed alone, whatever is drawn or answered meanwhile', async () => {
  const { input, type, take, draw } = field()
  type('77')
  await draw()
  await draw(3)
  expect(input.value).toBe('77')
  take()
  await draw(64)
  expect(input.value).toBe('64')
})

it('shows what is so when it is left with nothing taken', async () => {
  const { input, type, draw } = field()
  type('77')
  await draw(3)
  input.blur()
  expect(input.value).toBe('3')
})

it('keeps what was taken until the answer comes', async () => {
  const { input, type, take, draw } = field()
  type('77')
  take()
  input.blur()
  await draw()
  expect(input.value).toBe('77')
  await draw(77)
  expect(input.value).toBe('77')
})

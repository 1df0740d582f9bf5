import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import NameField from './NameField.vue'

const ofClip = () => {
  const wrapper = mount(NameField, {
    props: { name: 'Night Ferry', label: 'Name' },
    attachTo: document.body,
  })
  return { wrapper, field: wrapper.get('input') }
}

it('keeps what is typed while an earlier name is on its way', async () => {
  const { wrapper, field } = ofClip()
  field.element.focus()
  await field.setValue('Slack Water')
  field.element.blur()
  field.element.focus()
  await field.setValue('Lantern Quay')
  await wrapper.setProps({ name: 'Slack Water' })
  expect(field.element.value).toBe('Lantern Quay')
  field.element.blur()
  expect(wrapper.emitted('rename')).toEqual([['Slack Water'], ['Lantern Quay']])
})

it('shows a name that came from elsewhere, and takes nothing for it that nobody typed', async () => {
  const { wrapper, field } = ofClip()
  field.element.focus()
  await wrapper.setProps({ name: 'Slack Water' })
  expect(field.element.value).toBe('Slack Water')
  field.element.blur()
  await wrapper.setProps({ name: 'Night Ferry' })
  expect(field.element.value).toBe('Night Ferry')
  expect(wrapper.emitted('rename')).toBeUndefined()
})

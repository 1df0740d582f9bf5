import { flushPromises, mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import { vTip } from '@/page/tip'
import ChoiceWord from './ChoiceWord.vue'

const alternatives = ['forward', 'backward', 'random'].map((text, at) => ({
  key: text,
  text,
  chosen: at === 1,
}))

function aWord() {
  const wrapper = mount(ChoiceWord, {
    props: {
      word: { text: 'backward', name: 'direction' }, owner: 'Bottle', explains: '', ink: 0, barTicks: 100,
      ask: async () => alternatives,
    } as never, // prettier-ignore
    global: { stubs: { VMenu: true }, directives: { tip: vTip } },
  })
  const press = async (key: string, of: Partial<KeyboardEventInit> = {}) => {
    await wrapper.get('button').trigger('keydown', { key, ...of })
    await flushPromises()
    return (wrapper.emitted('choose') ?? []).map(([one]) => (one as { key: string }).key)
  }
  return { wrapper, press }
}

it('arrows go to the alternative before and after', async () => {
  expect(await aWord().press('ArrowUp')).toEqual(['random'])
  expect(await aWord().press('ArrowDown')).toEqual(['forward'])
})

it.each(['ctrlKey', 'altKey', 'metaKey'])('with %s a key is not for the word', async (held) => {
  const { wrapper, press } = aWord()
  expect(await press('ArrowUp', { [held]: true })).toEqual([])
  await press('Delete', { [held]: true })
  expect(wrapper.emitted('plain')).toBeUndefined()
})

it('Delete takes it back to plain', async () => {
  const { wrapper, press } = aWord()
  await press('Delete')
  expect(wrapper.emitted('plain')).toHaveLength(1)
})

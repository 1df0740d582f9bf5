import { vTip } from '@/page/tip'
import { mount } from '@vue/test-utils'
import { defineComponent, h, nextTick, reactive, shallowRef } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import type { Part, Word } from '@/api/client'
import { aLane } from '@/testing'
import { provideWords } from '@/hands/words'
import SentenceLine from './SentenceLine.vue'

const word = (fields: Partial<Word>): Word => ({
  kind: 'text', text: '', name: '', field: '', value: 0, stored: fields.value ?? 0, counted_from: 0, negated: false, low: 0, high: 0, decimals: 0,
  digits: '', last_digits: '', strip: '', own: 0, ...fields,
}) // prettier-ignore
const rotated: Part = {
  setting: 'rotate',
  explains: '',
  red: false,
  plain: { rotate: 0 },
  words: [
    word({ text: 'rotated ' }),
    word({ kind: 'number', text: '2', name: 'rotated', field: 'rotate', value: 2, low: -15, high: 15 }),
  ],
}

/** The hands that the words ask for. */
const target = shallowRef<object>({})
const hands = {
  document: () => target.value,
  move: vi.fn(),
  choose: vi.fn(),
  patch: vi.fn(),
  cancel: vi.fn(),
  ask: async () => [],
}
beforeEach(() => vi.clearAllMocks())
const moved = () => hands.move.mock.calls as [Word, number | string, string, boolean][]

const line = (parts: Part[] = [rotated], rotate = 2, of = aLane('bottle', { rotate })) => {
  target.value = of
  const props = reactive({ owner: 'Bottle', parts })
  const owner = defineComponent({
    setup() {
      provideWords(hands)
      return () => h(SentenceLine, props)
    },
  })
  const wrapper = mount(owner, {
    attachTo: document.body,
    global: { stubs: { VMenu: true }, directives: { tip: vTip } },
  })
  return Object.assign(wrapper, {
    turn: async (change: Partial<typeof props>) => {
      Object.assign(props, change)
      await nextTick()
    },
  })
}

describe('a number in a sentence', () => {
  it('is a spin button with a name, a value and limits', () => {
    expect(line().get('[role=spinbutton]').attributes()).toMatchObject({
      'aria-label': 'Bottle: rotated',
      'aria-valuenow': '2',
      'aria-valuemin': '-15',
      'aria-valuemax': '15',
    })
  })

  it('is stepped by arrows, on from what was asked for last, as one gesture while it has the focus, and taken back by Escape', async () => {
    const sentence = line()
    const number = sentence.get('[role=spinbutton]')
    ;(number.element as HTMLElement).focus()
    await number.trigger('keydown', { key: 'ArrowUp' })
    await number.trigger('keydown', { key: 'PageDown' })
    const moves = moved()
    expect(moves.map(([, value]) => value)).toEqual([3, -7])
    expect(moves[0]![2]).toBe(moves[1]![2])
    await number.trigger('keydown', { key: 'Escape' })
    expect(hands.cancel.mock.calls).toEqual([[moves[0]![2]]])
  })

  it('is typed over and taken with Enter, within its limits', async () => {
    const sentence = line()
    const number = sentence.get('[role=spinbutton]')
    await number.trigger('focus')
    for (const key of ['-', '4', '0']) await number.trigger('keydown', { key })
    expect(number.text()).toBe('-40')
    expect(hands.move).not.toHaveBeenCalled()
    await number.trigger('keydown', { key: 'Enter' })
    expect(moved()[0]![1]).toBe(-15)
  })

  it('forgets what was typed with Escape', async () => {
    const sentence = line()
    const number = sentence.get('[role=spinbutton]')
    await number.trigger('focus')
    await number.trigger('keydown', { key: '7' })
    await number.trigger('keydown', { key: 'Escape' })
    await number.trigger('blur')
    expect(hands.move).not.toHaveBeenCalled()
    expect(number.text()).toBe('2')
  })

  it('goes back to plain with Delete', async () => {
    const sentence = line()
    await sentence.get('[role=spinbutton]').trigger('keydown', { key: 'Delete' })
    expect(hands.patch.mock.calls).toEqual([['no rotate', { rotate: 0 }]])
  })

  it('shows the value of the document before the engine has answered', () => {
    expect(line([rotated], 5).get('[role=spinbutton]').text()).toBe('5')
  })
})

describe('a number that people count from 1', () => {
  const first: Part = {
    ...rotated,
    words: [word({ kind: 'number', text: '3', name: 'first step', field: 'rotate', value: 2, counted_from: 1, low: 0, high: 15 })],
  } // prettier-ignore

  it('is shown and typed one higher than the document has it', async () => {
    const number = line([first]).get('[role=spinbutton]')
    expect(number.attributes('aria-valuenow')).toBe('3')
    const sentence = line([first])
    const typed = sentence.get('[role=spinbutton]')
    await typed.trigger('focus')
    await typed.trigger('keydown', { key: '9' })
    await typed.trigger('keydown', { key: 'Enter' })
    expect(moved()[0]!.slice(1)).toEqual([8, expect.any(String), true])
  })

  it('shows what acts, not what lies dormant beyond it', () => {
    const dormant = { ...first.words[0]!, text: '8', value: 7, stored: 99 }
    expect(
      line([{ ...first, words: [dormant] }], 99)
        .get('[role=spinbutton]')
        .text(),
    ).toBe('8')
  })
})

describe('a number beyond what a float holds', () => {
  const last = 10n ** 30n
  const numbered: Part = {
    setting: 'source',
    explains: '',
    red: false,
    plain: null,
    words: [
      word({
        kind: 'digits',
        text: '8',
        name: 'number',
        field: 'source.number',
        digits: '7',
        last_digits: String(last),
      }),
    ],
  }

  it('is counted from 1, stepped exactly, and moves as digits', async () => {
    const sentence = line([numbered])
    const number = sentence.get('[role=spinbutton]')
    await number.trigger('focus')
    await number.trigger('keydown', { key: 'End' })
    await number.trigger('keydown', { key: 'ArrowUp' })
    for (const key of '1000000000000000000001') await number.trigger('keydown', { key })
    await number.trigger('keydown', { key: 'Enter' })
    const moves = moved()
    expect(moves.map(([, value]) => value)).toEqual([String(last), '1000000000000000000000'])
  })

  it('shows what the document says before the engine has answered', () => {
    const source = { kind: 'numbered', hits: 5, steps: 16, number: '1204' } as const
    const sentence = line([numbered], 0, aLane('bottle', { source }))
    expect(sentence.get('[role=spinbutton]').text()).toBe('1,205')
  })
})

describe('a part that is held', () => {
  it('stays while its number passes the plain value, and goes when it is let go', async () => {
    const sentence = line()
    await sentence.get('.part').trigger('focusin')
    target.value = aLane('bottle', { rotate: 0 })
    await sentence.turn({ parts: [] })
    expect(sentence.get('[role=spinbutton]').text()).toBe('0')
    await sentence.get('.sentence').trigger('focusout')
    expect(sentence.find('[role=spinbutton]').exists()).toBe(false)
  })
})

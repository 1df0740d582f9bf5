import { describe, expect, it } from 'vitest'

import { learns, targetAt } from './learn'

const CLINK = [{ id: 'clink', name: 'Clink' }]

/** A number as a sentence holds it, within what says whose it is. */
function number(whose: string, low = 0, high = 100) {
  document.body.innerHTML = `<div ${whose}><span data-field="chance_percent" data-name="chance" data-low="${low}"
    data-high="${high}" aria-label="Clink on the bench: chance">60</span></div>`
  return document.querySelector('span') as Element
}

describe('what a press learns', () => {
  it('is a setting of a lane, by their names, wherever it stands', () => {
    const learned = { kind: 'control', piece: 7, lane: 'clink', field: 'chance_percent', low: 0, high: 100 }
    for (const whose of ['data-lane="clink"', 'data-bench-of="clink"'])
      expect(targetAt(number(whose), 7, CLINK)).toEqual({ ...learned, name: 'Clink: chance' })
  })

  it('is a setting of the pattern where no lane is', () => {
    expect(targetAt(number(''), 7, CLINK)).toMatchObject({ lane: null, name: 'chance' })
  })

  it('is nothing without a piece, or where there is nothing between the ends, or too much for a knob', () => {
    expect(targetAt(number('data-lane="clink"'), null, CLINK)).toBeNull()
    expect(targetAt(number('data-lane="clink"', 5, 5), 7, CLINK)).toBeNull()
    expect(targetAt(number('data-lane="clink"', 0, 999_999_999), 7, CLINK)).toBeNull()
  })

  it('is what an element says itself', () => {
    const mute = { kind: 'mute', place: 2 } as const
    const element = document.createElement('button')
    element.dataset['learn'] = learns(mute)['data-learn']
    expect(targetAt(element, null, [])).toEqual(mute)
  })
})

import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, shallowRef } from 'vue'

import { aLane } from '@/testing'
import { useChosenLanes } from './useChosenLanes'

const setUp = () => {
  const lanes = shallowRef(['thud', 'chain', 'bottle', 'bell'].map((id) => aLane(id)))
  const chosen = effectScope().run(() => useChosenLanes(() => lanes.value))!
  return { lanes, chosen, names: () => chosen.chosen.value.map(({ id }) => id) }
}

describe('choosing lanes', () => {
  it('begins with the first, and walks', () => {
    const { chosen, names } = setUp()
    expect(names()).toEqual(['thud'])
    chosen.walk(1)
    chosen.walk(1)
    expect(names()).toEqual(['bottle'])
    chosen.walk(-9)
    expect(names()).toEqual(['thud'])
  })

  it('adds and takes away with Ctrl, and takes all between with Shift', () => {
    const { chosen, names } = setUp()
    chosen.touch('bottle', { ctrlKey: true })
    expect(names()).toEqual(['thud', 'bottle'])
    expect(chosen.first.value?.id).toBe('bottle')
    chosen.touch('thud', { ctrlKey: true })
    expect(names()).toEqual(['bottle'])
    chosen.touch('bell', { shiftKey: true })
    expect(names()).toEqual(['bottle', 'bell'])
    chosen.extend(-1)
    chosen.extend(-1)
    expect(names()).toEqual(['chain', 'bottle'])
  })

  it('leaves only the one that is touched plainly', () => {
    const { chosen, names } = setUp()
    chosen.touch('bell', { shiftKey: true })
    expect(names().length).toBe(4)
    chosen.touch('chain')
    expect(names()).toEqual(['chain'])
    chosen.touch('bell', { ctrlKey: true })
    chosen.onlyFirst()
    expect(names()).toEqual(['bell'])
  })

  it('goes to the lane that comes up when the chosen one goes', async () => {
    const { lanes, chosen, names } = setUp()
    chosen.choose('bottle')
    lanes.value = lanes.value.filter(({ id }) => id !== 'bottle')
    await nextTick()
    expect(names()).toEqual(['bell'])
  })
})

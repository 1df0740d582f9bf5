import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'

import { nameOf, useShortcuts, useShortcutState } from './useShortcuts'

const press = (target: EventTarget, key: string, fields: KeyboardEventInit = {}) =>
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...fields }))

beforeEach(() => setActivePinia(createPinia()))
afterEach(() => (document.body.innerHTML = ''))

describe('keys', () => {
  it('are named by what is pressed, letters whatever their case', () => {
    const name = (key: string, fields: KeyboardEventInit = {}) =>
      nameOf(new KeyboardEvent('keydown', { key, ...fields }))
    expect(name('m')).toBe('m')
    expect(name('Z', { ctrlKey: true, shiftKey: true })).toBe('Ctrl+Shift+z')
    expect(name('?', { shiftKey: true })).toBe('?')
    expect(name('Delete', { shiftKey: true })).toBe('Shift+Delete')
  })

  it('act where nothing owns them, and no longer once their screen is gone', () => {
    const act = vi.fn()
    const scope = effectScope()
    scope.run(() => useShortcuts({ m: { says: 'Mute', act } }))
    press(document.body, 'm')
    expect(act).toHaveBeenCalledTimes(1)
    expect(useShortcutState().active.length).toBe(1)
    scope.stop()
    press(document.body, 'm')
    expect(act).toHaveBeenCalledTimes(1)
    expect(useShortcutState().active.length).toBe(0)
  })

  it('never fire while typing, and leave arrows and digits to the part that has the focus', () => {
    document.body.innerHTML = '<input id="name"><span id="part" data-owns-keys tabindex="0">5</span>'
    const act = vi.fn()
    const scope = effectScope()
    scope.run(() => useShortcuts({ 'm': { says: '', act }, 'ArrowUp': { says: '', act }, '4': { says: '', act } })) // prettier-ignore
    const [name, part] = ['name', 'part'].map((id) => document.getElementById(id)!)
    press(name!, 'm')
    press(part!, 'ArrowUp')
    press(part!, '4')
    expect(act).not.toHaveBeenCalled()
    press(part!, 'm')
    expect(act).toHaveBeenCalledTimes(1)
    scope.stop()
  })

  it('are given back by Escape, which does nothing else then', () => {
    document.body.innerHTML = '<span id="part" data-owns-keys tabindex="0">5</span>'
    const act = vi.fn()
    const scope = effectScope()
    scope.run(() => useShortcuts({ '4': { says: '', act }, 'Escape': { says: '', act } })) // prettier-ignore
    const part = document.getElementById('part')!
    part.focus()
    press(part, 'Escape')
    expect(document.activeElement).toBe(document.body)
    expect(act).not.toHaveBeenCalled()
    press(document.body, '4')
    press(document.body, 'Escape')
    expect(act).toHaveBeenCalledTimes(2)
    scope.stop()
  })
})

it('silences from wherever one is, a field too', () => {
  const act = vi.fn()
  const scope = effectScope()
  scope.run(() => useShortcuts({ 'Shift+Escape': { says: '', act } })) // prettier-ignore
  const field = document.body.appendChild(document.createElement('input'))
  field.focus()
  field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', shiftKey: true, bubbles: true }))
  expect(act).toHaveBeenCalledOnce()
  field.remove()
  scope.stop()
})

// @vitest-environment node
import { expect, it } from 'vitest'

import { SimulatedInstrument } from './instrument'
import { noteOn } from './messages'

it('remembers no more than it can show, also where nobody looks for hours', () => {
  const instrument = new SimulatedInstrument({ now: () => 0 })
  for (let at = 0; at < 90_000; at++) instrument.send(noteOn(1, at % 128, 90), at)
  const last = instrument.taken.at(-1)!
  expect(instrument.taken.length).toBe(20_000)
  expect(last.time).toBeGreaterThan(60_000)
  expect(instrument.gather().length).toBe(20_000)
  expect(instrument.gather().at(-1)!.time).toBe(89_999)
})

/** What hands did on the keys since the pattern began to play, in ticks: exactly what the engine renders from. */
import type { Keys } from '@/api/client'
import { isDown } from '@/work/live'

export function pressed(keys: Keys, key: number, velocity: number, tick: number): Keys {
  const before = released(keys, key, tick)
  return { ...before, held: [...before.held, { start: tick, end: null, key, velocity }] }
}

export function released(keys: Keys, key: number, tick: number): Keys {
  const held = keys.held.map((one) => (one.key === key && isDown(one) ? ended(one, tick) : one))
  return { ...keys, held }
}
const ended = <Span extends { start: number }>(one: Span, tick: number): Span => ({
  ...one,
  end: Math.max(one.start, tick),
})

/** The sustain pedal goes down, or comes up. */
export function pedalled(keys: Keys, down: boolean, tick: number): Keys {
  const up = keys.sustained.map((one) => (isDown(one) ? ended(one, tick) : one))
  return { ...keys, sustained: down ? [...up, { start: tick, end: null }] : up }
}

/** All that latches hold is let go; keys that are down stay so. */
export const letGo = (keys: Keys, tick: number): Keys => ({ ...keys, let_go: [...keys.let_go, tick] })

export const isPedalDown = (keys: Keys): boolean => keys.sustained.some(isDown)

/** The tick after all that hands did. */
export const afterAll = (keys: Keys): number =>
  1 +
  Math.max(
    -1,
    ...[...keys.held, ...keys.sustained].map(({ start, end }) => Math.max(start, end ?? 0)),
    ...keys.let_go,
  )

/** The keys that are down. */
export const downKeys = (keys: Keys): number[] => keys.held.filter(isDown).map(({ key }) => key)

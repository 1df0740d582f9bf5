/** The computer's keyboard as two rows of keys, by their places, and the names of on-screen ones. */

/** Semitones above the first key, by a key's place: the lower row and the one above it, an octave higher. */
const LOWER = ['KeyZ', 'KeyS', 'KeyX', 'KeyD', 'KeyC', 'KeyV', 'KeyG', 'KeyB', 'KeyH', 'KeyN', 'KeyJ', 'KeyM']
const UPPER = [
  'KeyQ', 'Digit2', 'KeyW', 'Digit3', 'KeyE', 'KeyR', 'Digit5', 'KeyT', 'Digit6', 'KeyY', 'Digit7', 'KeyU', 'KeyI', 'Digit9', 'KeyO', 'Digit0', 'KeyP',
] // prettier-ignore

const PLACES: ReadonlyMap<string, number> = new Map([
  ...LOWER.map((code, at) => [code, at] as const),
  ...UPPER.map((code, at) => [code, at + 12] as const),
])

/** How many keys the rows reach. */
export const REACHED = 12 + UPPER.length

/** Semitones above the first key of a place on the computer's keyboard; undefined for one that plays nothing. */
export const semitonesOf = (code: string): number | undefined => PLACES.get(code)

/** What is printed on that key. */
export const printedOn = (semitones: number): string =>
  [...PLACES].find(([, at]) => at === semitones)?.[0].replace(/^(Key|Digit)/, '') ?? ''

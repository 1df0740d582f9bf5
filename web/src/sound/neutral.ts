/** MIDI controllers as the engine knows them: their names, and the values that change nothing. */
import controls from '@/api/controls.json'

const values: Readonly<Record<string, number>> = controls.neutral
const names: Readonly<Record<string, string>> = controls.names

export const neutral = (controller: number): number => values[controller] ?? 0
export const controllerName = (controller: number): string => names[controller] ?? `control ${controller}`
/** Those that the built-in sounds answer to. */
export const NAMED_CONTROLLERS: readonly number[] = Object.keys(names).map(Number)
/** Beside the controllers that MIDI numbers: messages of their own. */
export const [PRESSURE, BEND] = [128, 129]

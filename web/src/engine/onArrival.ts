import { until } from '@vueuse/core'

/** Milliseconds after which what hands did is not wanted any more: as long as an answer may take. */
const LONG = 20_000

/**
 * What the engine says, as soon as it is there: hands may be faster than its answers, and what they do counts all the
 * same, in the order in which it was done. Undefined where it does not come.
 */
export const onArrival = async <Data>(there: () => Data | undefined): Promise<Data | undefined> =>
  there() ?? until(there).toMatch((one) => one !== undefined, { timeout: LONG })

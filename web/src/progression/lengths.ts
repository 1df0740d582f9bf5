/** How long a chord may be made: which of what the engine offers a hand means. */
import { isSame } from '@/api/same'
import type { Progression, Schemas } from '@/api/client'
import { nearestOf } from '@/sound/time'

export type PlacedChord = Progression['chords'][number]
type Length = Schemas['ChordLength']

const among = (lengths: readonly Length[], isFine: boolean) => lengths.filter((one) => isFine || !one.is_fine)

/** How long that is which the document says, in ticks; undefined where it is none of them. */
export const ticksOfLasts = (lengths: readonly Length[], lasts: PlacedChord['lasts']) =>
  lengths.find((one) => isSame(one.lasts, lasts))?.ticks

/** The length nearest to so many ticks; of those that end between beats too where it `isFine`. */
export const nearestLength = (lengths: readonly Length[], ticks: number, isFine: boolean) =>
  nearestOf(among(lengths, isFine), ticks, (one) => one.ticks)

/** The next longer or shorter one; the same where there is none. */
export const lengthBeside = (lengths: readonly Length[], ticks: number, by: number, isFine: boolean) => {
  const all = among(lengths, isFine)
  return by > 0 ? all.find((one) => one.ticks > ticks) : all.findLast((one) => one.ticks < ticks)
}

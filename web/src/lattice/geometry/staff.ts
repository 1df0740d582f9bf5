/** Pitches of a melodic lane and the heights at which they are drawn. */
import type { LanePicture } from '@/api/client'

type Staff = NonNullable<LanePicture['staff']>

/** Space above and below the outermost pitches; a low row has less to spare. */
const staffPad = (height: number) => Math.min(13, height * 0.24)

/** At which height a pitch of a melodic lane is drawn. */
export function yOfPitch(pitch: number, { low, high }: Staff, height: number): number {
  const pad = staffPad(height)
  return height - pad - ((pitch - low) / Math.max(1, high - low)) * (height - 2 * pad)
}
/** The pitch at a height: of those in the scale, or, where steps count in semitones, of all. */
export function pitchAtY(y: number, staff: Staff, height: number, isOfScale: boolean): number {
  const pad = staffPad(height)
  const share = (height - pad - y) / Math.max(1, height - 2 * pad)
  const exact = staff.low + share * (staff.high - staff.low)
  if (!isOfScale) return Math.min(staff.high, Math.max(staff.low, Math.round(exact)))
  return staff.lines.reduce(
    (near, line) => (Math.abs(line - exact) < Math.abs(near - exact) ? line : near),
    staff.low,
  )
}
/** By how many steps of its strip a pitch lies above another: lines of the scale, or semitones. */
function stepsBetween(from: number, to: number, { lines }: Staff, isOfScale: boolean): number {
  if (!isOfScale) return to - from
  const placeOf = (pitch: number) => lines.filter((line) => line <= pitch).length
  return placeOf(to) - placeOf(from)
}
/** What the pitch strip says of a step whose pitch is drawn from where it is to another. */
export const drawnTo = (value: number, from: number, to: number, staff: Staff, isOfScale: boolean): number =>
  value + stepsBetween(from, to, staff, isOfScale)

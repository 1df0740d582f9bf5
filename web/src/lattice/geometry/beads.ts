/** A bead and what stands over, under and beside it: SVG paths, in pixels. */

export const MAX_RADIUS = 11

/** Beads of one look. `solid`, `ring` and `fill` are SVG paths; a ring is filled as far as its chance. */
export interface Beads {
  readonly isInBand: boolean
  readonly sounds: boolean
  readonly solid: string
  readonly ring: string
  readonly fill: string
  /** Caps over accents, bars under ratchets. */
  readonly caps: string
}

/** A letter of a linked step, or by how many octaves it is higher. */
export interface Tag {
  readonly x: number
  readonly y: number
  readonly text: string
}

export const round = (value: number) => Math.round(value * 10) / 10

export const circle = (x: number, y: number, r: number) =>
  `M${round(x - r)} ${round(y)}a${round(r)} ${round(r)} 0 1 0 ${round(2 * r)} 0a${round(r)} ${round(r)} 0 1 0 ${round(-2 * r)} 0`

/** The lower part of a circle, `share` (0-1) of its height. */
function segment(x: number, y: number, r: number, share: number): string {
  if (share <= 0) return ''
  const level = r - 2 * r * share
  const half = Math.sqrt(Math.max(0, r * r - level * level))
  const isLarge = share > 0.5 ? 1 : 0
  return `M${round(x - half)} ${round(y + level)}A${round(r)} ${round(r)} 0 ${isLarge} 0 ${round(x + half)} ${round(y + level)}Z`
}

export const upright = (x: number, y: number, height: number) =>
  `M${round(x)} ${round(y - height / 2)}v${round(height)}`

/** A wedge that points down at a step, clear of the largest bead. */
export const notch = (x: number, y: number) =>
  `M${round(x - 4)} ${round(Math.max(0.5, y - MAX_RADIUS - 8))}h8l-4 6z`

/** How large a bead of that velocity is, beside neighbours `stepPixels` away. */
export function radiusOf(velocity: number, stepPixels: number): number {
  return Math.min(MAX_RADIUS, stepPixels * 0.46) * (0.42 + 0.58 * (velocity / 127))
}

/** A cap over an accent. */
export const cap = (x: number, y: number, r: number) => {
  const half = Math.max(3, r * 0.75)
  return `M${round(x - half)} ${round(y - r - 2)}q${round(half)} -5 ${round(2 * half)} 0`
}
export const bar = (from: number, to: number, y: number) => `M${round(from)} ${round(y)}H${round(to)}`

export class Pen {
  readonly solid: string[] = []
  readonly ring: string[] = []
  readonly fill: string[] = []
  readonly caps: string[] = []
  constructor(
    readonly isInBand: boolean,
    readonly sounds: boolean,
  ) {}

  bead(x: number, y: number, r: number, chance: number) {
    if (chance >= 1) this.solid.push(circle(x, y, r))
    else {
      this.ring.push(circle(x, y, Math.max(0.5, r - 0.8)))
      this.fill.push(segment(x, y, Math.max(0.5, r - 0.8), chance))
    }
  }
  beads(): Beads {
    const { isInBand, sounds, solid, ring, fill, caps } = this
    return {
      isInBand,
      sounds,
      solid: solid.join(''),
      ring: ring.join(''),
      fill: fill.join(''),
      caps: caps.join(''),
    }
  }
}

/** A word at height `at` over or under a bead; beside it where the row is too low for that. */
export function tagOf(text: string, x: number, at: number, y: number, r: number, height: number): Tag {
  const fits = at >= 9 && at <= height - 1
  return fits ? { x: round(x), y: round(at), text } : { x: round(x + r + 7), y: round(y + 4), text }
}

/** How much room a hit's beads have to the next step, and how far down a ratchet’s bar lies. */
export const UNDER = 4

/** What a bead may be large in a row that is so high. */
export const roomIn = (height: number) => height * 0.3
/** A row of shrinking beads with a bar under it: as many as there is room for. */
export function ratchet(
  pen: Pen,
  x: number,
  y: number,
  r: number,
  chance: number,
  stepPixels: number,
  count: number,
) {
  const apart = stepPixels / count
  for (let note = 0; note < count; note++) {
    const small = Math.min(r * (1 - (0.55 * note) / count), apart * 0.48)
    if (small >= 0.9) pen.bead(x + note * apart, y, small, chance)
    else pen.solid.push(upright(x + note * apart, y, r))
  }
  pen.caps.push(bar(x - Math.min(r, apart * 0.48), x + (count - 1) * apart + 1, y + r + UNDER))
}

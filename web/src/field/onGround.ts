/** Which lanes stand on a ground, and which of them go where its hand goes. */
import type { Lane } from '@/api/client'
import type { GroundId } from '@/engine/around'

export type GroundLane = Lane & { readonly source: Extract<Lane['source'], { kind: 'ground' }> }
export const standsOn = (lane: Lane, ground: GroundId): lane is GroundLane =>
  lane.source.kind === 'ground' && lane.source.ground === ground

/** Anchored and pinned ones stay. */
export const goesAlong = ({ anchored, source }: GroundLane): boolean => !anchored && !source.pinned

/** Mute and solo, heard at once. */
import type { Lane } from '@/api/client'
import { withMovement } from '@/work/movements'
import { usePiece } from '@/work/piece'
import { useMoves } from './moves'
import { usePlaying } from './playing'

export function useMutes() {
  const piece = usePiece()
  const playing = usePlaying()
  const moves = useMoves()

  function mute(laneId: string, isMuted: boolean) {
    const lane = piece.lanes.find(({ id }) => id === laneId)
    const moved = lane?.movements?.find(({ control, off }) => control === 'mute' && !off)
    const edit = (label: string, fields: Partial<Lane>) =>
      piece.editLane(laneId, `${lane?.name}: ${label}`, (old) => ({ ...old, mute: isMuted, ...fields }))
    // Recorded, or taken over by the hand: then the movement is off, so that the hand has its way.
    if (moves.isOn && playing.isPlaying && lane) edit(isMuted ? 'muted' : 'unmuted', {})
    else if (moved && lane)
      edit('muted by hand, its movement off', {
        movements: withMovement(lane.movements ?? [], 'mute', { ...moved, off: true }),
      })
    else piece.silence(laneId, { mute: isMuted })
    // What is recorded counts from a tick on, as all that moves does; else a hand is heard at once.
    if (isMuted && !(moves.isOn && playing.isPlaying)) playing.player?.silence((id) => id === laneId)
  }

  /** Solo a lane or not; the others fall silent at once. */
  function solo(laneId: string, isSolo: boolean) {
    piece.silence(laneId, { solo: isSolo })
    const soloed = new Set(piece.lanes.filter((lane) => lane.solo).map((lane) => lane.id))
    if (isSolo) playing.player?.silence((id) => !soloed.has(id))
  }

  return { mute, solo }
}

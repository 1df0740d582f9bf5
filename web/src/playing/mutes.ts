/** Mute and solo, heard at once. */
import { usePiece } from '@/work/piece'
import { useMoves } from './moves'
import { usePlaying } from './playing'

export function useMutes() {
  const piece = usePiece()
  const playing = usePlaying()
  const moves = useMoves()

  function mute(laneId: string, isMuted: boolean) {
    const lane = piece.lanes.find(({ id }) => id === laneId)
    const isRecording = moves.isOn && playing.isPlaying
    // What a movement mutes, or is recorded, is a change of the piece; else a hand on the desk is none.
    if (lane?.movements?.some(({ control, off }) => control === 'mute' && !off) || isRecording)
      piece.editLane(laneId, `${lane?.name}: ${isMuted ? 'muted' : 'unmuted'}`, (old) => ({ ...old, mute: isMuted })) // prettier-ignore
    else piece.silence(laneId, { mute: isMuted })
    // What is recorded counts from a tick on, as all that moves does; else a hand is heard at once.
    if (isMuted && !isRecording) playing.player?.silence((id) => id === laneId)
  }

  /** Solo a lane or not; the others fall silent at once. */
  function solo(laneId: string, isSolo: boolean) {
    piece.silence(laneId, { solo: isSolo })
    const soloed = new Set(piece.lanes.filter((lane) => lane.solo).map((lane) => lane.id))
    if (isSolo) playing.player?.silence((id) => !soloed.has(id))
  }

  return { mute, solo }
}

/** Clips that play in place of the lanes that they came from; the lanes are set aside, not gone. */
import { clipsApi } from '@/api/clips'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

export function placeClip(id: number, name: string) {
  const piece = usePiece()
  return useNotices().attempt(async () => {
    const clips = await clipsApi.inPlace(
      id,
      piece.lanes.map((lane) => lane.id),
    )
    piece.editLanes(`“${name}” plays in place`, (lanes) =>
      lanes.map((lane) => (clips[lane.id] ? { ...lane, clip: clips[lane.id] ?? null } : lane)),
    )
  })
}

/** Let the lanes play their own notes again. */
export function bringLanesBack() {
  usePiece().editLanes('The lanes play again', (lanes) =>
    lanes.map((lane) => (lane.clip ? { ...lane, clip: null } : lane)),
  )
}

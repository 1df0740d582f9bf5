/** What is done with the clips of the list: described, copied, deleted, opened as a pattern, played in place. */
import { useRouter } from 'vue-router'

import { clipsApi } from '@/api/clips'
import type { ClipLine, Schemas } from '@/api/client'
import { useNotices } from '@/page/notices'
import { placeClip } from '@/playing/clipsInPlace'
import { useLoops } from '@/playing/loops'
import { usePiece } from '@/work/piece'

/** `readClips`: reads the list anew. */
export function useClipActions(readClips: () => Promise<unknown>) {
  const router = useRouter()
  const notices = useNotices()
  const loops = useLoops()
  const piece = usePiece()

  /** Do something, and read the list anew. */
  const change = (act: () => Promise<unknown>) =>
    notices.attempt(async () => {
      await act()
      await readClips()
    })
  const describe = (clip: ClipLine, fields: Schemas['Description']) =>
    change(() => clipsApi.describe(clip.id, fields))
  const copy = (clip: ClipLine) => change(() => clipsApi.copy(clip.id))
  const remove = (clip: ClipLine) =>
    notices.attempt(async () => {
      await clipsApi.delete(clip.id)
      if (loops.looping === `clip ${clip.id}`) loops.stop()
      await readClips()
      const restore = () => change(() => clipsApi.restore(clip.id))
      notices.say(`“${clip.name}” is deleted.`, { label: 'Undo', act: restore })
    })
  const reopen = (clip: ClipLine) =>
    notices.attempt(async () => router.push(`/lattice/${await clipsApi.reopen(clip.id)}`))
  async function place(clip: ClipLine) {
    await placeClip(clip.id, clip.name)
    await router.push(`/lattice/${piece.id}`)
  }

  return { describe, copy, remove, reopen, place }
}

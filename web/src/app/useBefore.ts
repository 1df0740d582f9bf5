/** Z held: the place before is heard and seen in its stead; let go, and all is as it is. */
import { useEventListener } from '@vueuse/core'

import { useNotices } from '@/page/notices'
import { isFree, useShortcuts, useShortcutState } from '@/page/useShortcuts'
import { usePiece } from '@/work/piece'
import { useTrail } from '@/work/trail'
import { useAudition } from '@/work/audition'

export function useBefore() {
  const piece = usePiece()
  const trail = useTrail()
  const audition = useAudition()
  const notices = useNotices()
  const shortcuts = useShortcutState()
  let isDown = false
  useShortcuts({ z: { says: 'Held: hear the place before', act: () => undefined } })

  async function begin() {
    const before = trail.before()
    const here = piece.pattern?.id
    if (!before) return
    await notices.attempt(async () => {
      const document = await trail.documentAt(before.number)
      const pattern = document?.patterns.find(({ id }) => id === here)
      if (isDown && pattern && piece.pattern?.id === here) audition.start(() => pattern)
    })
  }
  function end() {
    if (!isDown) return
    isDown = false
    audition.end()
  }
  useEventListener(window, 'keydown', (event) => {
    if (event.key !== 'z' || event.repeat || isDown || shortcuts.lettersPlay || !isFree(event)) return
    isDown = true
    void begin()
  })
  useEventListener(window, 'keyup', (event) => event.key.toLowerCase() === 'z' && end())
  useEventListener(window, 'blur', end)
}

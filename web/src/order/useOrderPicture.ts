/** The order as the engine draws it: asked anew while the piece changes, the newest answer alone. */
import { watchDebounced } from '@vueuse/core'
import { shallowRef } from 'vue'

import { orderApi, type OrderPicture } from '@/engine/order'
import { useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

export function useOrderPicture() {
  const piece = usePiece()
  const notices = useNotices()
  const pictures = useNewest()
  const picture = shallowRef<OrderPicture | null>(null)
  async function ask() {
    const { document } = piece
    if (!document) return pictures.cancel()
    try {
      picture.value = (await pictures.ask(() => orderApi.picture(document))) ?? picture.value
    } catch (reason) {
      notices.complain(reason, { label: 'Try again', act: ask })
    }
  }
  watchDebounced(() => piece.document, ask, { debounce: 30, maxWait: 120, immediate: true })
  return picture
}

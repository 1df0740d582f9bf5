/** The order as the engine draws it: asked anew while the piece changes, the newest answer alone. */
import { shallowRef, watch } from 'vue'

import { orderApi, type OrderPicture } from '@/engine/order'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

export function useOrderPicture() {
  const piece = usePiece()
  const notices = useNotices()
  const picture = shallowRef<OrderPicture | null>(null)
  let isAsking = false
  async function ask() {
    if (isAsking) return
    isAsking = true
    let asked: unknown = null
    try {
      while (piece.document && asked !== piece.document) {
        const document = piece.document
        asked = document
        const found = await orderApi.picture(document)
        if (piece.document) picture.value = found
      }
    } catch (reason) {
      notices.complain(reason, { label: 'Try again', act: ask })
    } finally {
      isAsking = false
    }
  }
  watch(() => piece.document, ask, { immediate: true })
  return picture
}

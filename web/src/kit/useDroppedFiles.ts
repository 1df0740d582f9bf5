/** Sound files, dropped wherever on the page. */
import { useEventListener } from '@vueuse/core'
import { readonly, ref } from 'vue'

import { useSoundFiles } from './useSoundFiles'

/** Take sound files that are dropped. Returns whether some are held over the page. */
export function useDroppedFiles() {
  const soundFiles = useSoundFiles()
  const isDropping = ref(false)
  useEventListener(window, 'dragover', (event: DragEvent) => {
    if (!event.dataTransfer?.types.includes('Files')) return
    event.preventDefault() // else the browser would open them
    isDropping.value = true
  })
  useEventListener(window, 'dragleave', (event: DragEvent) => {
    if (!event.relatedTarget) isDropping.value = false
  })
  useEventListener(window, 'drop', (event: DragEvent) => {
    isDropping.value = false
    const files = [...(event.dataTransfer?.files ?? [])]
    if (!files.length) return
    event.preventDefault()
    void soundFiles.take(files)
  })
  return readonly(isDropping)
}

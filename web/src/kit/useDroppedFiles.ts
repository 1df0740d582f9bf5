/** Sound files, dropped wherever on the page. */
import { useEventListener } from '@vueuse/core'
import { ref, shallowRef } from 'vue'

import type { Voice } from '@/api/library'
import { useSoundFiles } from './useSoundFiles'

/** `isDropping`: whether files are held over the page; `dropped`: the sounds that were dropped last, until they are used. */
export function useDroppedFiles() {
  const soundFiles = useSoundFiles()
  const isDropping = ref(false)
  const dropped = shallowRef<readonly Voice[]>([])
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
    void store(files)
  })
  async function store(files: File[]) {
    const stored = await soundFiles.store(files, dropped.value)
    dropped.value = [...dropped.value, ...stored]
  }
  return { isDropping, dropped }
}

/** Work that may take its time: said once it has taken half a second, and given up where the musician says so. */
import { defineStore } from 'pinia'
import { ref } from 'vue'

import { useNotices } from './notices'

const SAID_AFTER_MS = 500

export interface LongWork {
  readonly key: number
  readonly saying: string
  /** Null where it cannot be given up: what it stores is stored. */
  readonly cancel: (() => void) | null
}

export const useLongWork = defineStore('long-work', () => {
  const notices = useNotices()
  const shown = ref<readonly LongWork[]>([])
  let counted = 0

  /**
   * Do it and return what comes of it; undefined where it was given up, or failed, which a notice says.
   * What *act* does after it has waited for something, it does only if the signal still lets it. *about*: what a notice
   * begins with.
   */
  async function during<T>(
    saying: string,
    act: (signal: AbortSignal) => Promise<T>,
    { canCancel = true, about = '' } = {},
  ): Promise<T | undefined> {
    const giving = new AbortController()
    const { signal } = giving
    const key = ++counted
    const cancel = canCancel ? () => giving.abort() : null
    const late = setTimeout(() => (shown.value = [...shown.value, { key, saying, cancel }]), SAID_AFTER_MS)
    try {
      return await Promise.race([act(signal), whenAborted(signal)])
    } catch (reason) {
      const message = about && `${about}: ${reason instanceof Error ? reason.message : String(reason)}`
      if (!signal.aborted) notices.complain(message || reason)
      return undefined
    } finally {
      clearTimeout(late)
      shown.value = shown.value.filter((one) => one.key !== key)
    }
  }
  return { shown, during }
})

const whenAborted = (signal: AbortSignal) =>
  new Promise<never>((_, reject) => signal.addEventListener('abort', () => reject(signal.reason as Error)))

/** Whether the server can be reached. While it cannot, it is asked for, later each time, and at once when the network is back. */
import { useEventListener } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'

import { api, onReached } from '@/api/client'
import { pauseAfter } from '@/api/policy'
import { useNotices } from './notices'

export const useReach = defineStore('reach', () => {
  const notices = useNotices()
  const isAway = ref(false)
  let failures = 0
  let timer: ReturnType<typeof setTimeout> | undefined

  onReached((isThere) => (isAway.value = !isThere))
  /** Any answer says that it is there, also a refusal. */
  async function ask() {
    clearTimeout(timer)
    await api.GET('/api/session').catch(() => undefined)
    if (isAway.value) timer = setTimeout(() => void ask(), pauseAfter(null, ++failures))
  }
  watch(isAway, (isNow) => {
    clearTimeout(timer)
    failures = 0
    if (isNow) timer = setTimeout(() => void ask(), pauseAfter(null, ++failures))
    else notices.isBack()
  })
  useEventListener(window, 'online', () => isAway.value && void ask())

  return { isAway }
})

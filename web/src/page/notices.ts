import { defineStore } from 'pinia'
import { ref } from 'vue'

import { isAway } from '@/api/policy'

export interface Notice {
  readonly key: number
  readonly text: string
  readonly isError: boolean
  /** Whether it says that the server could not be reached. */
  readonly isOfAway: boolean
  readonly actions: readonly NoticeAction[]
}
export interface NoticeAction {
  readonly label: string
  readonly act: () => unknown
}

const SHOWN_MS = 9000

const MOST = 3

/** Short messages at the foot, the newest last. What was done goes by itself after a while, an error when it is closed. */
export const useNotices = defineStore('notices', () => {
  const shown = ref<Notice[]>([])
  let counted = 0

  function say(text: string, ...actions: NoticeAction[]) {
    add(text, actions)
  }
  function complain(reason: unknown, ...actions: NoticeAction[]) {
    if (reason instanceof Error && reason.name === 'LateError') return
    const text = reason instanceof Error ? reason.message : String(reason)
    add(text, actions, { isError: true, isOfAway: isAway(reason) })
  }
  /** What was said to be away is there again; what was offered then is offered still. */
  function isBack() {
    const ofAway = shown.value.filter((notice) => notice.isOfAway)
    if (!ofAway.length) return
    shown.value = shown.value.filter((notice) => !notice.isOfAway)
    say('The server is back.', ...(ofAway.at(-1)?.actions ?? []))
  }
  function add(text: string, actions: NoticeAction[], { isError = false, isOfAway = false } = {}) {
    const key = ++counted
    const others = shown.value.filter((notice) => notice.text !== text)
    const all = [...others, { key, text, isError, isOfAway, actions }]
    // Where there are too many, what is no error gives way first.
    while (all.length > MOST)
      all.splice(
        Math.max(
          0,
          all.slice(0, -1).findIndex((one) => !one.isError),
        ),
        1,
      )
    shown.value = all
    if (!isError) setTimeout(() => close(key), SHOWN_MS)
  }
  /** Do something, and say what refuses it. Undefined where it is refused. */
  async function attempt<Result>(act: () => Promise<Result> | Result): Promise<Result | undefined> {
    try {
      return await act()
    } catch (reason) {
      complain(reason)
      return undefined
    }
  }
  /** Do what a notice offers; where that fails, a new one says so. */
  function take(key: number, { act }: NoticeAction) {
    close(key)
    return attempt(act)
  }
  function close(key: number) {
    shown.value = shown.value.filter((notice) => notice.key !== key)
  }
  return { shown, say, complain, attempt, isBack, take, close }
})

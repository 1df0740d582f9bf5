/** What nobody caught is said, wherever it came from: nothing fails in silence. */
import type { App } from 'vue'

import { ApiError } from '@/api/client'
import { useNotices } from '@/page/notices'

/** What the browser reports though nothing has failed. */
const HARMLESS = /ResizeObserver loop/

function say(reason: unknown) {
  if (reason instanceof Error && (reason.name === 'AbortError' || HARMLESS.test(reason.message))) return
  console.error(reason)
  const isAnswer = reason instanceof ApiError || (reason instanceof Error && reason.name === 'LateError')
  const message = reason instanceof Error ? reason.message : String(reason)
  useNotices().complain(
    isAnswer
      ? reason
      : `Something here went wrong: ${message}. Your work is kept; if this happens again, reload the page.`,
  )
}

export function sayUncaught(app: App) {
  app.config.errorHandler = say
  window.addEventListener('unhandledrejection', (event) => say(event.reason))
  window.addEventListener('error', (event) => say(event.error ?? new Error(event.message)))
}

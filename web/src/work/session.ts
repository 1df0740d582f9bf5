import { defineStore } from 'pinia'
import { ref } from 'vue'

import { answer, api, onSignedOut, type Schemas } from '@/api/client'

/** Who is signed in. `user` is undefined until the server has said. */
export const useSession = defineStore('session', () => {
  const user = ref<string | null>()
  const hasDemo = ref(false)
  /** Whether the session ended while somebody was at work: what they do waits until they have signed in again. */
  const isExpired = ref(false)
  /** Whether signing in has just taken back that the account was deleted. */
  const isTakenBack = ref(false)
  onSignedOut(() => (isExpired.value = Boolean(user.value)))

  function take(session: Schemas['Session']) {
    user.value = session.user
    isExpired.value = false
    hasDemo.value = session.demo
    isTakenBack.value = session.taken_back
  }
  const read = async () => take(await answer(api.GET('/api/session')))
  const signIn = async (name: string, password: string) =>
    take(await answer(api.POST('/api/session', { body: { name, password } })))
  const goAboard = async () => take(await answer(api.POST('/api/session/demo')))
  const signOut = async () => take(await answer(api.DELETE('/api/session')))

  return { user, hasDemo, isExpired, isTakenBack, read, signIn, goAboard, signOut }
})

import { defineStore } from 'pinia'
import { ref } from 'vue'

import { answer, api, type Schemas } from '@/api/client'

/** Who is signed in. `user` is undefined until the server has said. */
export const useSession = defineStore('session', () => {
  const user = ref<string | null>()
  const hasDemo = ref(false)

  function take(session: Schemas['Session']) {
    user.value = session.user
    hasDemo.value = session.demo
  }
  const read = async () => take(await answer(api.GET('/api/session')))
  const signIn = async (name: string, password: string) =>
    take(await answer(api.POST('/api/session', { body: { name, password } })))
  const goAboard = async () => take(await answer(api.POST('/api/session/demo')))
  const signOut = async () => take(await answer(api.DELETE('/api/session')))

  return { user, hasDemo, read, signIn, goAboard, signOut }
})

<script setup lang="ts">
/** How the account is signed in to, what is stored in it, how it is exported and imported, how it ends. */
import { ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'

import { accountApi, type Account } from '@/api/account'
import ExportLink from '@/page/ExportLink.vue'
import { useLongWork } from '@/page/longWork'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { useSession } from '@/work/session'

const { account } = defineProps<{ account: Account }>()
const emit = defineEmits<{ changed: [] }>()

const session = useSession()
const piece = usePiece()
const notices = useNotices()
const work = useLongWork()
const router = useRouter()

const email = ref(account.email)
watch(
  () => account.email,
  (address) => (email.value = address),
)
const password = ref('')
/** What the password is asked for, just now. */
const asks = ref<'email' | 'delete' | null>(null)
const problem = ref('')
const isBusy = ref(false)
const file = useTemplateRef<HTMLInputElement>('file')

async function doing(act: () => Promise<void>) {
  isBusy.value = true
  problem.value = ''
  try {
    await act()
    asks.value = null
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason)
  } finally {
    password.value = ''
    isBusy.value = false
  }
}
const changeEmail = () =>
  doing(async () => {
    await accountApi.changeEmail(email.value, password.value)
    emit('changed')
    notices.say(email.value ? `A link would go to ${email.value} now.` : 'No link goes anywhere now.')
  })
const endOthers = () =>
  doing(async () => {
    await accountApi.endOthers()
    notices.say('Signed out everywhere else, and all tokens are revoked.')
  })
const remove = () =>
  doing(async () => {
    await piece.saveNow()
    await accountApi.remove(password.value)
    piece.close()
    await session.read()
    await router.push('/')
    notices.say('Your account is deleted. Sign in within a day, and it is back with all that is yours.')
  })
const bringAlong = (chosen: File | undefined) =>
  chosen &&
  doing(async () => {
    const importing = (signal: AbortSignal) => accountApi.bringAlong(chosen, signal)
    const brought = await work.during(`“${chosen.name}” is being imported …`, importing)
    if (!brought) return
    const { rows } = brought
    emit('changed')
    const sentences = [
      [rows['pieces.piece'], 'pieces'],
      [rows['clips.clip'], 'clips'],
      [rows['sounds.sound'], 'sounds'],
    ].filter(([number]) => number)
    notices.say(`Imported: ${sentences.map((one) => one.join(' ')).join(', ') || 'nothing'}.`)
  })
</script>

<template>
  <section aria-labelledby="sign-ins">
    <h2 id="sign-ins">Signing in</h2>
    <template v-if="account.has_password">
      <form @submit.prevent="asks === 'email' ? changeEmail() : (asks = 'email')">
        <label>
          Where a link goes, should you forget the password
          <input v-model="email" type="email" maxlength="254" aria-label="Mail address" />
        </label>
        <label v-if="asks === 'email'">
          Your password
          <input v-model="password" type="password" required autocomplete="current-password" />
        </label>
        <button type="submit" class="word-button" :disabled="isBusy || (!asks && email === account.email)">
          Change the address
        </button>
      </form>
      <div class="line">
        <a class="word-button" href="/account/password">Change the password</a>
        <button type="button" class="word-button" :disabled="isBusy" @click="endOthers">
          Sign out everywhere else
        </button>
      </div>
    </template>
    <p v-else>The demo musician has no password: anybody can use it, and all share what is here.</p>
  </section>

  <section aria-labelledby="yours">
    <h2 id="yours">All that is yours</h2>
    <p>
      {{ account.megabytes }} MB of {{ account.megabytes_at_most }} are used. It is exported as one file:
      pieces with their trails, clips, also as MIDI files, takes, kits, starters, sounds and what is bound on
      controllers. What such a file holds is imported here beside what is there.
    </p>
    <div class="line">
      <ExportLink class="word-button" href="/api/account/everything.zip" name="jolly-lattice.zip">
        Export all of it
      </ExportLink>
      <button type="button" class="word-button" :disabled="isBusy" @click="file?.click()">
        Import such a file…
      </button>
      <input
        ref="file"
        type="file"
        accept=".zip"
        hidden
        aria-label="File to import"
        @change="bringAlong(file?.files?.[0])"
      />
    </div>
    <template v-if="account.has_password">
      <p>
        Deleting the account removes all of it for good, a day from then. Whoever signs in before has it back.
      </p>
      <form v-if="asks === 'delete'" @submit.prevent="remove">
        <label>
          Your password
          <input v-model="password" type="password" required autocomplete="current-password" />
        </label>
        <button type="submit" class="word-button" :disabled="isBusy">Delete it with all that is mine</button>
        <button type="button" class="word-button" @click="asks = null">Keep it</button>
      </form>
      <button v-else type="button" class="word-button" @click="asks = 'delete'">Delete my account…</button>
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </section>
</template>

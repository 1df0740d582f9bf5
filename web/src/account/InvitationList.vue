<script setup lang="ts">
/** Whom the musician has invited: links that one person each makes an account with. */
import { ref } from 'vue'

import { NewInvitation } from '@/api/limits.json'
import { accountApi, type InvitationLine } from '@/api/account'
import { sayAge } from '@/page/age'
import { useNotices } from '@/page/notices'
import { useList } from '@/page/useLists'

const emit = defineEmits<{ copy: [link: string] }>()
const notices = useNotices()
const { lines: invitations, again } = useList(['invitations'], accountApi.invitations)

const note = ref('')
const days = ref(7)
/** The link that was just made: shown until one leaves. */
const made = ref<{ readonly note: string; readonly link: string } | null>(null)

const doing = (act: () => Promise<void>) =>
  notices.attempt(async () => {
    await act()
    await again()
  })
const invite = () =>
  doing(async () => {
    const said = note.value
    const { invitation, link } = await accountApi.invite(said.trim(), days.value)
    made.value = { note: invitation.note || 'somebody', link }
    if (note.value === said) note.value = ''
  })
const takeBack = (one: InvitationLine) =>
  doing(async () => {
    await accountApi.takeBack(one.id)
    made.value = null
    if (!one.used_by) notices.say('The invitation is taken back: its link is good for nothing now.')
  })
const said = (one: InvitationLine) =>
  one.used_by ? `${one.used_by} came with it` : one.has_expired ? 'has expired' : 'not used yet'
</script>

<template>
  <section aria-labelledby="invitations">
    <h2 id="invitations">Invitations</h2>
    <p>A link lets one person make an account of their own.</p>
    <form @submit.prevent="invite">
      <label>
        Whom for
        <input v-model="note" maxlength="80" placeholder="Ines of the second watch" aria-label="Whom for" />
      </label>
      <label>
        Holds for days
        <input
          v-model.number="days"
          type="number"
          v-bind="NewInvitation.days"
          required
          aria-label="Days it holds"
        />
      </label>
      <button type="submit" class="word-button strong">Invite</button>
    </form>
    <div v-if="made" class="made" role="status">
      <p>
        The link for <b>{{ made.note }}</b>, shown this once:
      </p>
      <code>{{ made.link }}</code>
      <button type="button" class="word-button" @click="emit('copy', made.link)">Copy</button>
    </div>
    <ul v-if="invitations.length">
      <li v-for="one in invitations" :key="one.id">
        <b>{{ one.note || 'somebody' }}</b>
        <span>{{ said(one) }}</span>
        <span>made {{ sayAge(one.made_at) }}</span>
        <span />
        <button
          type="button"
          class="word-button"
          :aria-label="`${one.used_by ? 'Forget' : 'Take back'}: ${one.note || 'somebody'}`"
          @click="takeBack(one)"
        >
          {{ one.used_by ? 'Forget' : 'Take back' }}
        </button>
      </li>
    </ul>
  </section>
</template>

<script setup lang="ts">
/** The musician's account: how it is signed in to and left, whom they invite, the tokens that scripts sign in with. */
import { onMounted, ref } from 'vue'

import { accountApi, type Account } from '@/api/account'
import { tokensApi, type TokenLine } from '@/api/tokens'
import { sayAge } from '@/page/age'
import { useNotices } from '@/page/notices'
import { useList } from '@/page/useLists'
import { useSession } from '@/work/session'
import script from '../../../docs/by_script.py?raw'
import InvitationList from './InvitationList.vue'
import YourAccount from './YourAccount.vue'

const session = useSession()
const notices = useNotices()
const { lines: tokens, isLoaded, again } = useList(['tokens'], tokensApi.list)

const SAID = { read: 'reads', write: 'reads and writes' } as const
const SCOPES = Object.keys(SAID) as (keyof typeof SAID)[]
const name = ref('')
const scope = ref<'read' | 'write'>('read')
const problem = ref('')
/** The token that was just made: what it is, is shown until one leaves. */
const made = ref<{ readonly name: string; readonly secret: string } | null>(null)
const address = location.origin

const account = ref<Account>()
async function read() {
  try {
    account.value = await accountApi.read()
  } catch (reason) {
    notices.complain(reason, { label: 'Try again', act: read })
  }
}
onMounted(read)

async function make() {
  problem.value = ''
  try {
    const typedName = name.value
    const { token, secret } = await tokensApi.make({ name: typedName.trim(), scope: scope.value })
    made.value = { name: token.name, secret }
    if (name.value === typedName) name.value = ''
    await again()
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason)
  }
}
const revoke = (token: TokenLine) =>
  notices.attempt(async () => {
    await tokensApi.revoke(token.id)
    if (made.value?.name === token.name) made.value = null
    await again()
    notices.say(`The token “${token.name}” is revoked: it is good for nothing now.`)
  })
async function copy(text: string, what: string) {
  try {
    await navigator.clipboard.writeText(text)
    notices.say(`${what} is copied.`)
  } catch {
    notices.complain(`${what} could not be copied: choose it and copy it by hand.`)
  }
}
</script>

<template>
  <main class="account">
    <h1>Account</h1>
    <p class="who">
      Signed in as <b>{{ session.user }}</b>
    </p>

    <div class="parts">
      <YourAccount v-if="account" :account="account" @changed="read" />
      <InvitationList v-if="account?.invites" @copy="(text) => copy(text, 'The link')" />
    </div>

    <div class="parts">
      <section aria-labelledby="tokens">
        <h2 id="tokens">Tokens for scripts</h2>
        <p>
          A token lets a program of yours do what you may do here. What it is, is shown once: only a digest of
          it is kept. One that reads can also render; one that writes changes your pieces and clips.
        </p>
        <form @submit.prevent="make">
          <label>
            What for
            <input
              v-model="name"
              maxlength="80"
              required
              placeholder="night script"
              aria-label="Name of the token"
            />
          </label>
          <div class="scopes" role="group" aria-label="What it may do">
            <button
              v-for="one in SCOPES"
              :key="one"
              type="button"
              class="pill"
              :aria-pressed="scope === one"
              @click="scope = one"
            >
              {{ SAID[one] }}
            </button>
          </div>
          <button type="submit" class="word-button strong" :disabled="!name.trim()">Make a token</button>
        </form>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <div v-if="made" class="made" role="status">
          <p>
            The token <b>{{ made.name }}</b>, shown this once:
          </p>
          <code>{{ made.secret }}</code>
          <button type="button" class="word-button" @click="copy(made.secret, 'The token')">Copy</button>
        </div>
        <ul v-if="tokens.length">
          <li v-for="token in tokens" :key="token.id">
            <b>{{ token.name }}</b>
            <span>{{ SAID[token.scope] }}</span>
            <span>made {{ sayAge(token.made_at) }}</span>
            <span>{{ token.used_at ? `used ${sayAge(token.used_at)}` : 'never used' }}</span>
            <button
              type="button"
              class="word-button"
              :aria-label="`Revoke ${token.name}`"
              @click="revoke(token)"
            >
              Revoke
            </button>
          </li>
        </ul>
        <p v-else-if="isLoaded" class="none">No token yet.</p>
      </section>

      <section aria-labelledby="script">
        <h2 id="script">A first script</h2>
        <p>
          It makes a piece, renders it, keeps a clip and downloads the MIDI file, with Python alone. What else
          there is, with an example of each body: <a href="/api/openapi.json">the API’s description</a>.
          Without a server, <code>python -m lattice --help</code> does the same.
        </p>
        <pre tabindex="0" aria-label="The script"><code>export JOLLY_SERVER={{ address }} JOLLY_TOKEN=jolly_…
python by_script.py</code>

<code>{{ script }}</code></pre>
        <button type="button" class="word-button" @click="copy(script, 'The script')">Copy the script</button>
      </section>
    </div>
  </main>
</template>

<style>
/* Its parts are laid out alike. */
.account {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 20px 32px 40px;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.25fr);
  align-content: start;
  gap: 6px 40px;
  h1 {
    font-size: 28px;
  }
  .who {
    text-align: right;
  }
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
    align-content: start;
    justify-items: start;
    padding-top: 14px;
  }
  h2 {
    font-size: 20px;
  }
  p {
    line-height: 22px;
  }
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: end;
  }
  label {
    display: grid;
    gap: 2px;
    font-size: 14px;
    color: var(--soft-ink);
  }
  input {
    width: 190px;
    height: 36px;
    padding: 0 12px;
    border: 1.5px solid var(--rule);
    border-radius: 10px;
    background: var(--card);
    color: var(--ink);
    font-size: 15px;
  }
  input[type='email'] {
    width: 300px;
  }
  input[type='number'] {
    width: 80px;
  }
  .scopes {
    display: flex;
    gap: 3px;
  }
  .scopes .pill {
    min-height: 36px;
  }
  form .word-button {
    min-height: 36px;
  }
  .problem {
    color: var(--act-text);
  }
  .made {
    justify-self: stretch;
    display: flex;
    flex-wrap: wrap;
    gap: 8px 12px;
    align-items: center;
    padding: 12px 16px;
    border: 1.5px solid var(--ink);
    border-radius: 12px;
    background: var(--card);
  }
  .made p {
    width: 100%;
  }
  .made code {
    flex: 1;
    min-width: 0;
    overflow-wrap: anywhere;
    user-select: all;
  }
  ul {
    justify-self: stretch;
    list-style: none;
  }
  li {
    display: grid;
    grid-template-columns: 1.4fr 1fr 1fr 1fr auto;
    gap: 10px;
    align-items: center;
    padding: 6px 0;
    border-bottom: 1px solid var(--rule);
    font-size: 14px;
  }
  li b {
    overflow-wrap: anywhere;
    font-size: 15px;
  }
  li span,
  .none {
    color: var(--soft-ink);
  }
  a {
    color: var(--act-text);
  }
  a.word-button {
    display: inline-flex;
    align-items: center;
    color: var(--ink);
    text-decoration: none;
  }
  pre {
    justify-self: stretch;
    max-height: 440px;
    margin: 0;
    overflow: auto;
    padding: 14px 16px;
    border: 1.5px solid var(--rule);
    border-radius: 12px;
    background: var(--card);
    font-size: 13px;
    line-height: 19px;
  }
  .parts {
    display: grid;
    align-content: start;
    gap: 8px;
    min-width: 0;
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 14px;
    align-items: center;
  }
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr);
    .who {
      text-align: left;
    }
  }
}
</style>

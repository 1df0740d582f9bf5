<script setup lang="ts">
/** The way in; over the work where a session has ended, so that nothing of it is lost. */
import { ref } from 'vue'

import { useSession } from '@/work/session'

defineProps<{ isOverWork?: boolean }>()
const session = useSession()
const name = ref('')
const password = ref('')
const problem = ref('')
const isBusy = ref(false)

async function doing(act: () => Promise<void>) {
  isBusy.value = true
  problem.value = ''
  try {
    await act()
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason)
  } finally {
    isBusy.value = false
  }
}

/** Two lanes that drift, for the eye: fives over eights. */
const threads = [
  { ink: '#8c2f45', y: 60, every: 130, r: 17 },
  { ink: '#d9771b', y: 150, every: 97, r: 12 },
  { ink: '#4a8a2c', y: 240, every: 74, r: 9 },
  { ink: '#117f78', y: 330, every: 167, r: 20 },
  { ink: '#2a66b8', y: 420, every: 113, r: 11 },
]
const beads = (every: number) => Array.from({ length: Math.ceil(1400 / every) }, (_, at) => 40 + at * every)
</script>

<template>
  <component :is="isOverWork ? 'div' : 'main'" class="sign-in" :class="{ over: isOverWork }">
    <svg
      v-if="!isOverWork"
      class="woven"
      viewBox="0 0 1280 480"
      preserveAspectRatio="xMidYMid slice"
      aria-hidden="true"
    >
      <g v-for="thread in threads" :key="thread.ink" :fill="thread.ink" :stroke="thread.ink">
        <line x1="0" x2="1280" :y1="thread.y" :y2="thread.y" stroke-width="1.6" />
        <circle
          v-for="x in beads(thread.every)"
          :key="x"
          :cx="x"
          :cy="thread.y"
          :r="thread.r"
          stroke="none"
        />
      </g>
    </svg>
    <section class="card">
      <template v-if="isOverWork">
        <h2>Sign in again</h2>
        <p>Your session has ended. What you did is safe here, and is stored once you have signed in.</p>
      </template>
      <template v-else>
        <h1>Jolly<span>·</span>Lattice</h1>
        <p>Step patterns made by rules, heard at once, kept as MIDI clips.</p>
      </template>
      <form @submit.prevent="doing(() => session.signIn(name, password))">
        <v-text-field v-model="name" label="Name" autocomplete="username" required />
        <v-text-field
          v-model="password"
          label="Password"
          type="password"
          autocomplete="current-password"
          required
        />
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <div class="ways">
          <button type="submit" class="word-button" :disabled="isBusy">Sign in</button>
          <a href="/account/reset">Forgotten?</a>
        </div>
      </form>
      <template v-if="session.hasDemo">
        <hr />
        <button
          type="button"
          class="word-button strong of-demo"
          :disabled="isBusy"
          @click="doing(session.tryDemo)"
        >
          Try it as the demo musician
        </button>
      </template>
    </section>
  </component>
</template>

<style scoped>
.sign-in {
  position: relative;
  flex: 1;
  display: grid;
  place-items: center;
}
.over section {
  width: auto;
}
.woven {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  opacity: 0.85;
}
section {
  position: relative;
  width: 400px;
  padding: 30px 34px;
  display: grid;
  gap: 16px;
}
h1 {
  font-size: 38px;
  line-height: 1;
}
h1 span {
  color: var(--act);
}
form {
  display: grid;
  gap: 12px;
}
.problem,
.ways a {
  color: var(--act-text);
}
.ways {
  display: flex;
  align-items: center;
  gap: 18px;
}
.ways .word-button {
  flex: 1;
}
.ways a {
  padding: 6px 0;
}
hr {
  border: 0;
  border-top: 1.5px solid var(--rule);
}
.of-demo {
  min-height: 46px;
  border-radius: 23px;
  font-size: 17px;
}
</style>

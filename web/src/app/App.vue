<script setup lang="ts">
import { useEventListener, useLocalStorage, usePreferredDark } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useShortcuts, useShortcutState } from '@/page/useShortcuts'
import { useNotices } from '@/page/notices'
import { useOutbox } from '@/work/outbox'
import { usePiece } from '@/work/piece'
import { useTrail } from '@/work/trail'
import { useTransport } from '@/playing/transport'
import { useSession } from '@/work/session'
import Deck from '@/tape/Deck.vue'
import HintNote from '@/help/HintNote.vue'
import AppHeader from './AppHeader.vue'
import ConflictDialog from './ConflictDialog.vue'
import LearnBar from '@/ports/LearnBar.vue'
import { useClock } from '@/ports/useClock'
import { useControllers } from '@/ports/useControllers'
import { useLearning } from '@/hands/learning'
import { useOwnHistory } from '@/page/ownHistory'
import NoticeStack from './NoticeStack.vue'
import type { Theme } from '@/theme/choice'
import SignIn from './SignIn.vue'
import { help } from './router'
import TipLayer from './TipLayer.vue'
import { useStartingUp } from './useStartingUp'

const session = useSession()
const notices = useNotices()
const outbox = useOutbox()
const piece = usePiece()
const transport = useTransport()
const trail = useTrail()
const route = useRoute()
const router = useRouter()
/** Day or night: by choice, or after the system's. */
const theme = useLocalStorage<Theme>('jolly-lattice-theme', 'system')
const isSystemDark = usePreferredDark()
const isNight = computed(() => (theme.value === 'system' ? isSystemDark.value : theme.value === 'night'))

useStartingUp()
useControllers()
useClock()

// What could not be fetched once is not tried again by the browser: only a new page has it. What waits outlives that.
router.onError((_reason, to) =>
  notices.complain('This screen is not here yet: the server could not be reached.', {
    label: 'Reload',
    act: () => location.assign(to.fullPath),
  }),
)

const hasDeck = computed(() => piece.id !== null && route.name !== 'shelf')

const tellOf = (verb: string, done: Promise<string | null>) =>
  notices.attempt(async () => {
    const label = await done
    notices.say(label ? `${verb}: ${label}` : `Nothing ${verb === 'Undone' ? 'to undo' : 'to redo'}.`)
  })
const history = useOwnHistory()
const learning = useLearning()
/** A screen that has a history of its own goes back in that. */
const step = (own: (() => unknown) | undefined, verb: string, ofPiece: () => Promise<string | null>) =>
  own ? own() : tellOf(verb, ofPiece())
/** Help is fetched when it is first wanted. */
const HelpDialog = defineAsyncComponent(help)
const shortcuts = useShortcutState()
const wantsHelp = ref(false)
watch(
  () => shortcuts.isHelpOpen,
  (opens) => (wantsHelp.value ||= opens),
)
useShortcuts({
  '?': { says: 'Help, and all keys', act: () => (shortcuts.isHelpOpen = true) },
  ' ': { says: 'Play, or stop', act: () => transport.toggle() },
  'y': { says: 'Learn: press a control, then move a thing on a controller', act: () => learning.begin() },
  'Shift+Escape': { says: 'Silence: end every note at every port', act: () => transport.panic() },
  'Ctrl+z': { says: 'Undo', act: () => step(history.own?.undo, 'Undone', trail.undo) },
  'Ctrl+Shift+z': { says: 'Redo', act: () => step(history.own?.redo, 'Redone', trail.redo) },
  'Alt+1': { says: 'Shelf', act: () => router.push('/') },
  'Alt+2': { says: 'Lattice', act: () => piece.id !== null && router.push(`/lattice/${piece.id}`) },
  'Alt+3': { says: 'Field', act: () => piece.id !== null && router.push(`/field/${piece.id}`) },
  'Alt+4': { says: 'Takes', act: () => router.push('/takes') },
  'Alt+5': { says: 'Clips', act: () => router.push('/clips') },
  'Alt+7': { says: 'Ports', act: () => router.push(piece.id === null ? '/ports' : `/ports/${piece.id}`) },
  'Alt+6': { says: 'Order', act: () => piece.id !== null && router.push(`/order/${piece.id}`) },
}) // prettier-ignore

// What the browser's storage has not taken would be lost with the page.
useEventListener(window, 'beforeunload', (event) => {
  if (outbox.isAtRisk) event.preventDefault()
})
useEventListener(document, 'visibilitychange', () => {
  if (document.hidden) void piece.saveNow()
})
</script>

<template>
  <v-app :theme="isNight ? 'night' : 'day'">
    <div class="frame">
      <template v-if="session.user">
        <AppHeader v-model:theme="theme" />
        <LearnBar />
        <RouterView />
        <Deck v-if="hasDeck" />
        <ConflictDialog v-if="piece.saveState === 'conflict'" />
        <v-dialog :model-value="session.isExpired" aria-label="Sign in again" persistent width="460">
          <SignIn is-over-work />
        </v-dialog>
        <HelpDialog v-if="wantsHelp" />
        <HintNote />
      </template>
      <SignIn v-else-if="session.user === null" />
      <NoticeStack :above-deck="hasDeck" />
      <TipLayer />
    </div>
  </v-app>
</template>

<style scoped>
.frame {
  height: 100vh;
  min-width: 740px;
  min-height: 660px;
  display: flex;
  flex-direction: column;
  background: var(--paper);
  color: var(--ink);
}
/* What stands below one another there needs its height; the page then scrolls. */
@media (max-width: 900px) {
  .frame {
    min-height: 900px;
  }
}
</style>

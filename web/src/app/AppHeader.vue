<script setup lang="ts">
/** Where one is, what is open, and whether it is saved. */
import { useTitle } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import ExportCard from '@/clips/ExportCard.vue'
import { useOutbox } from '@/work/outbox'
import { usePiece } from '@/work/piece'
import { useTransport } from '@/playing/transport'
import { useSession } from '@/work/session'
import { forgetTapes } from '@/playing/stored'
import TrailPanel from './TrailPanel.vue'
import ExportLink from '@/page/ExportLink.vue'
import NameField from '@/page/NameField.vue'
import { useNotices } from '@/page/notices'
import PatternTabs from './PatternTabs.vue'
import { useShortcutState } from '@/page/useShortcuts'
import { THEMES, type Theme } from '@/theme/choice'

const theme = defineModel<Theme>('theme', { required: true })
const piece = usePiece()
const transport = useTransport()
const session = useSession()
const outbox = useOutbox()
const notices = useNotices()
const shortcuts = useShortcutState()
const route = useRoute()
const router = useRouter()

const waits = computed(() => `${outbox.count} ${outbox.count === 1 ? 'change waits' : 'changes wait'}`)
/** What waits of other pieces, of keeping and of clips, wherever one is. */
const elsewhere = computed(() =>
  outbox.trouble && outbox.count && (!piece.document || route.name === 'shelf' || piece.saveState === 'saved')
    ? `${waits.value} ${outbox.trouble === 'signed-out' ? 'for you to sign in' : 'for the server'}`
    : '',
)
const said = computed(() => {
  switch (piece.saveState) {
    case 'saved':
      return 'saved'
    case 'saving':
      return 'saving …'
    case 'unreachable':
      return `not saved: ${waits.value}`
    case 'signed-out':
      return `not saved: ${waits.value} for you to sign in`
    case 'refused':
      return `not saved: ${piece.problem}`
    case 'conflict':
      return 'not saved: changed elsewhere'
    default:
      return ''
  }
})
const hasPatterns = computed(() =>
  ['lattice', 'field', 'order', 'perform', 'ports'].includes(String(route.name)),
)
const isExporting = ref(false)
/** On the screen of the order that is what is exported. */
const isOfOrder = computed(() => route.name === 'order' && Boolean(piece.document?.order.length))
const tabs = computed(() => [
  { name: 'shelf', label: 'Shelf', to: '/' },
  ...(piece.id !== null
    ? [
        { name: 'lattice', label: 'Lattice', to: `/lattice/${piece.id}` },
        { name: 'field', label: 'Field', to: `/field/${piece.id}` },
      ]
    : []),
  { name: 'takes', label: 'Takes', to: '/takes' },
  { name: 'clips', label: 'Clips', to: '/clips' },
  ...(piece.id !== null ? [{ name: 'order', label: 'Order', to: `/order/${piece.id}` }] : []),
  { name: 'ports', label: 'Ports', to: piece.id === null ? '/ports' : `/ports/${piece.id}` },
])

/** What the screen is, for those who hear the page, where it shows no heading of its own. */
const screen = computed(() => route.meta['called'] as string | undefined)
useTitle(computed(() => [screen.value, piece.document?.name, 'Jolly Lattice'].filter(Boolean).join(' · ')))

const rename = (name: string) => piece.edit(`Renamed ${name}`, (document) => ({ ...document, name }))

async function goAshore() {
  transport.stop()
  try {
    await piece.saveNow()
    await session.signOut()
    piece.close()
    forgetTapes()
    await router.push('/')
  } catch (reason) {
    notices.complain(reason, { label: 'Sign out again', act: goAshore })
  }
}
</script>

<template>
  <header class="header">
    <h1 v-if="screen" class="visually-hidden">{{ screen }}</h1>
    <RouterLink to="/" class="brand named" aria-label="Jolly Lattice, to the shelf"
      >Jolly<span>·</span>Lattice</RouterLink
    >
    <div v-if="piece.document && route.name !== 'shelf'" class="piece">
      <NameField :name="piece.document.name" label="Name of the piece" @rename="rename" />
      <span class="state" :class="{ alarm: said.startsWith('not') }" role="status">{{ said }}</span>
      <TrailPanel />
      <button
        v-tip="isOfOrder ? 'The order as a MIDI file' : 'The pattern as a MIDI file'"
        type="button"
        class="quiet-button wide"
        @click="isExporting = true"
      >
        Export
      </button>
    </div>
    <span v-if="elsewhere" class="state alarm" role="status" data-test="waits">{{ elsewhere }}</span>
    <PatternTabs v-if="piece.document && hasPatterns" />
    <nav aria-label="Screens">
      <RouterLink
        v-for="tab in tabs"
        :key="tab.name"
        :to="tab.to"
        class="tab"
        :data-hint="tab.name"
        :class="{ here: route.name === tab.name || route.meta['tab'] === tab.name }"
      >
        {{ tab.label }}
      </RouterLink>
    </nav>
    <button type="button" class="quiet-button me" data-hint="me" :aria-label="`Signed in as ${session.user}`">
      {{ session.user }}
      <v-menu activator="parent" location="bottom end">
        <div class="card user" role="dialog" aria-label="Your account">
          <button
            v-for="[name, called] in THEMES"
            :key="name"
            type="button"
            class="quiet-button"
            :aria-pressed="theme === name"
            @click="theme = name"
          >
            {{ theme === name ? '✓ ' : '' }}{{ called }}
          </button>
          <button type="button" class="quiet-button" @click="shortcuts.isHelpOpen = true">
            Help and shortcuts (?)
          </button>
          <ExportLink
            v-if="piece.id !== null"
            class="quiet-button"
            :href="`/api/pieces/${piece.id}.json`"
            :name="`${piece.document?.name}.json`"
            >Export the piece</ExportLink
          >
          <button v-if="piece.id !== null" type="button" class="quiet-button" @click="isExporting = true">
            The pattern as a MIDI file …
          </button>
          <RouterLink to="/account" class="quiet-button">Account and tokens</RouterLink>
          <button type="button" class="quiet-button" @click="goAshore">Sign out</button>
        </div>
      </v-menu>
    </button>
    <v-dialog v-model="isExporting" aria-label="Export" width="420">
      <ExportCard :order="isOfOrder" />
    </v-dialog>
  </header>
</template>

<style scoped>
.header {
  display: flex;
  align-items: center;
  gap: 14px;
  height: 50px;
  flex: none;
  padding: 0 14px 0 18px;
  border-bottom: 1.5px solid var(--ink);
}
.brand {
  font-size: 21px;
  color: var(--ink);
  text-decoration: none;
  white-space: nowrap;
}
.brand span {
  color: var(--act);
}
.piece {
  display: flex;
  align-items: baseline;
  gap: 8px;
  min-width: 0;
}
.piece :deep(.name-field) {
  width: auto;
  max-width: 320px;
}
.state {
  font-size: 14px;
  color: var(--soft-ink);
  white-space: nowrap;
}
.state.alarm {
  color: var(--act-text);
  font-weight: 600;
  white-space: normal;
}
nav {
  margin-left: auto;
  display: flex;
  gap: 4px;
}
.tab {
  padding: 6px 10px;
  border-radius: 17px;
  font-weight: 600;
  color: var(--soft-ink);
  text-decoration: none;
}
.tab:hover {
  color: var(--ink);
}
.tab.here {
  background: var(--ink);
  color: var(--paper);
}
.me {
  max-width: 110px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.user {
  display: grid;
  padding: 8px;
  min-width: 150px;
}
.user a {
  display: grid;
  align-items: center;
  text-decoration: none;
}
.user .quiet-button {
  text-align: left;
  min-height: 34px;
}
/* Where there is no room, the tab says where the shelf is. */
@media (max-width: 1180px) {
  .brand:has(~ .piece) {
    display: none;
  }
  .header {
    gap: 6px;
  }
  .tab {
    padding: 6px 5px;
  }
  .me {
    max-width: 62px;
  }
}
/* A tablet held upright: two rows. */
@media (max-width: 900px) {
  .header {
    height: auto;
    min-height: 50px;
    padding-block: 4px;
    flex-wrap: wrap;
  }
  .piece {
    flex: 1 0 100%;
  }
  .piece :deep(.name-field) {
    margin-right: auto;
  }
}
</style>

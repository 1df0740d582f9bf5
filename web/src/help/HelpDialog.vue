<script setup lang="ts">
/** Help: how each screen is used, what each word does, all keys; found by typing. */
import { storeToRefs } from 'pinia'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'

import { askHelp } from '@/engine/help'
import { useFocusBackFrom } from '@/page/useFocusBack'
import { useOffer } from '@/page/useLists'
import { useShortcutState } from '@/page/useShortcuts'
import BeadLegend from './BeadLegend.vue'
import { found, shelvesOf, type Page } from './finding'
import ShortcutList from './ShortcutList.vue'
import { useHints } from './useHints'
import WordPage from './WordPage.vue'

const { isHelpOpen: isOpen } = storeToRefs(useShortcutState())
const hints = useHints()
const route = useRoute()
useFocusBackFrom(isOpen)

const help = useOffer(['help'], askHelp, isOpen)
const typed = ref('')
const shelves = computed(() => shelvesOf(help.value ?? null))
const listed = computed(() => found(shelves.value, typed.value))
const pages = computed(() => shelves.value.flatMap((shelf) => shelf.pages))
/** What a hand chose to read. */
const chosen = shallowRef<Page | null>(null)
const field = useTemplateRef<HTMLInputElement>('field')
const list = useTemplateRef<HTMLElement>('list')

const ofScreen = () =>
  pages.value.find((one) => one.kind === 'topic' && one.topic.of.includes(String(route.name)))
/** Until a hand has chosen: what was found first, or else what is said of the screen that one is on. */
const page = computed(
  () =>
    chosen.value ?? (typed.value ? listed.value[0]?.pages[0] : null) ?? ofScreen() ?? pages.value[0] ?? null,
)
watch(isOpen, () => {
  typed.value = ''
  chosen.value = null
})
const isHere = (one: Page) => one.kind === page.value?.kind && one.title === page.value.title
/** The page of a setting that shows a word. */
const showing = (setting: string) =>
  pages.value.find((one) => one.kind === 'word' && one.word.setting === setting)

function walk(event: KeyboardEvent) {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  const buttons = [...(list.value?.querySelectorAll('button') ?? [])]
  if (!by || !buttons.length) return
  event.preventDefault()
  const here = buttons.indexOf(document.activeElement as HTMLButtonElement)
  const next = here + by
  if (next < 0) field.value?.focus()
  else buttons[Math.min(next, buttons.length - 1)]?.focus()
}
</script>

<template>
  <v-dialog v-model="isOpen" aria-label="Help" width="1060" @after-enter="field?.focus()">
    <div class="card help">
      <nav aria-label="Pages of help" @keydown="walk">
        <input
          ref="field"
          v-model="typed"
          type="search"
          class="search"
          placeholder="a word, or what you want"
          aria-label="Look for help"
          @input="chosen = null"
          @keydown.enter="chosen = null"
        />
        <div ref="list" class="list">
          <template v-for="shelf in listed" :key="shelf.name">
            <h3>{{ shelf.name }}</h3>
            <button
              v-for="one in shelf.pages"
              :key="`${one.kind} ${one.title}`"
              type="button"
              :aria-current="isHere(one) ? 'page' : undefined"
              @click="chosen = one"
            >
              {{ one.title }}
            </button>
          </template>
          <p v-if="!help" class="none" role="status">Fetching all words …</p>
          <p v-else-if="!listed.length" class="none">Nothing speaks of “{{ typed }}”.</p>
        </div>
      </nav>
      <div class="page" tabindex="0" role="region" aria-label="Page of help">
        <template v-if="page?.kind === 'topic'">
          <h2>{{ page.topic.name }}</h2>
          <ol>
            <li v-for="said in page.topic.says" :key="said">{{ said }}</li>
          </ol>
        </template>
        <WordPage
          v-else-if="page?.kind === 'word' && help"
          :key="page.word.group + page.word.setting"
          :help="help"
          :word="page.word"
        />
        <template v-else-if="page?.kind === 'term'">
          <h2>{{ page.term.word }}</h2>
          <p class="means">{{ page.term.means }}</p>
          <button
            v-if="page.term.shown_by && showing(page.term.shown_by)"
            type="button"
            class="word-button"
            @click="chosen = showing(page.term.shown_by) ?? page"
          >
            Shown and played: {{ showing(page.term.shown_by)?.title }}
          </button>
        </template>
        <section v-else-if="page?.kind === 'keys'" aria-label="Shortcuts">
          <h2>Shortcuts</h2>
          <ShortcutList />
        </section>
        <template v-else-if="page?.kind === 'beads'">
          <h2>What beads tell</h2>
          <BeadLegend />
        </template>
      </div>
      <div class="foot">
        <button type="button" class="word-button" @click="((isOpen = false), hints.again())">
          Show the hints again
        </button>
        <button type="button" class="word-button" @click="isOpen = false">Close</button>
      </div>
    </div>
  </v-dialog>
</template>

<style scoped>
.help {
  height: min(86vh, 760px);
  display: grid;
  grid-template: 1fr auto / 250px 1fr;
  overflow: hidden;
}
nav {
  grid-row: 1 / -1;
  min-height: 0;
  display: grid;
  grid-template-rows: auto 1fr;
  border-right: 1.5px solid var(--rule);
}
.search {
  height: 40px;
  margin: 14px 14px 8px;
  padding: 0 12px;
  min-width: 0;
  border: 1.5px solid var(--rule);
  border-radius: 10px;
  font-size: 15px;
}
.search:focus-visible {
  border-color: var(--ink);
}
.list {
  overflow-y: auto;
  padding: 0 8px 14px;
}
h3 {
  margin: 10px 8px 2px;
  font: 650 13px/20px var(--text-font);
  color: var(--soft-ink);
}
.list button {
  display: block;
  width: 100%;
  min-height: 28px;
  padding: 2px 8px;
  border-radius: 8px;
  text-align: left;
  font-size: 15px;
  cursor: pointer;
}
.list button:hover {
  background: color-mix(in srgb, var(--rule) 45%, transparent);
}
.list [aria-current] {
  background: var(--ink);
  color: var(--paper);
}
.none {
  padding: 8px;
  color: var(--soft-ink);
}
.page {
  overflow-y: auto;
  padding: 22px 28px;
}
h2 {
  margin-bottom: 10px;
  font-size: 26px;
}
ol {
  margin: 0;
  padding-left: 22px;
  display: grid;
  gap: 10px;
  max-width: 62ch;
  font-size: 16px;
  line-height: 24px;
}
.means {
  margin-bottom: 14px;
  font-size: 17px;
}
.foot {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  padding: 10px 16px;
  border-top: 1.5px solid var(--rule);
}
@media (pointer: coarse) {
  .list button {
    min-height: 40px;
  }
}
@media (max-width: 760px) {
  .help {
    grid-template: 200px 1fr auto / 1fr;
    height: 92vh;
  }
  nav {
    grid-row: auto;
    border-right: 0;
    border-bottom: 1.5px solid var(--rule);
  }
}
</style>

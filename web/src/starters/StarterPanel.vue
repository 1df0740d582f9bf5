<script setup lang="ts">
/** Ready-made beginnings: looked for by name and tag, heard and seen in place while it plays, taken or let go. */
import { computed, onUnmounted, ref, useTemplateRef, watch } from 'vue'

import { answer, api, type Lane, type LanePicture, type Pattern } from '@/api/client'
import { library, type ListedStarter } from '@/api/library'
import { useList } from '@/page/useLists'
import { useFocusBackFrom } from '@/page/useFocusBack'
import { useShortcuts } from '@/page/useShortcuts'
import { ticksOfBar } from '@/sound/time'
import MiniThread from '@/sentence/MiniThread.vue'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { isFound, tagsOf } from './looking'

const props = defineProps<{ lane: Lane | null }>()
const piece = usePiece()
const notices = useNotices()
const isOpen = ref(false)
const panel = useTemplateRef<HTMLElement>('panel')
const pictures = ref(new Map<string, LanePicture>())
const typed = ref('')
const kind = ref<'lane' | 'pattern'>('lane')
const heard = ref<ListedStarter | null>(null)
const FOUR_FOUR = { numerator: 4, denominator: 4 } as const
const BAR = ticksOfBar(FOUR_FOUR)

const ofKind = computed(() =>
  starters.value.filter(({ fields }) => (fields !== null) === (kind.value === 'lane')),
)
const found = computed(() => ofKind.value.filter((one) => isFound(one, typed.value)))
const tags = computed(() => tagsOf(ofKind.value).slice(0, 14))
const keyOf = (one: ListedStarter) => `${one.id ?? 'ours'} ${one.starter.name}`

const { lines: starters, again } = useList(['starters'], library.starters, isOpen)
const begin = () => panel.value?.querySelector('input')?.focus()
watch([isOpen, starters], ([isSeen]) => {
  if (isSeen) void draw().catch(notices.complain)
})
/** All lane starters in one question, as if they were the lanes of a pattern. */
async function draw() {
  const { score, dice } = piece
  const lanes = starters.value.filter(({ fields }) => fields).slice(0, 64)
  if (!score || !lanes.length) return
  const voice = score.kit.voices[0]?.id ?? ''
  const drawn = lanes.map(({ starter }, at) => ({ ...(starter.lane as Lane), id: `starter-${at}`, voice }))
  const body = {
    score: { ...score, meter: FOUR_FOUR, bars: 16, lanes: drawn },
    dice,
    window: { first_bar: 0, bars: 1 },
    chosen: [],
    known: {},
  }
  const rendering = await answer(api.POST('/api/render', { body }))
  pictures.value = new Map(rendering.lanes.map((picture, at) => [keyOf(lanes[at] as ListedStarter), picture]))
}

/** The pattern as it would begin from a starter; null where there is nothing that could. */
function begunFrom({ starter, fields }: ListedStarter): Promise<Pattern> | null {
  const { document, pattern } = piece
  if (!document || !pattern || (fields && !props.lane)) return null
  return library.begin({ starter, pattern, kit: document.kit, lane: props.lane?.id ?? null })
}
async function hear(one: ListedStarter) {
  heard.value = one
  try {
    const begun = await begunFrom(one)
    if (begun && heard.value === one) piece.audition(() => begun)
  } catch (reason) {
    notices.complain(reason)
  }
}
function letGo() {
  heard.value = null
  piece.audition(null)
}
async function take(one: ListedStarter): Promise<void> {
  letGo()
  const { pattern } = piece
  try {
    const begun = await begunFrom(one)
    if (!begun) return
    if (piece.pattern !== pattern) return take(one) // a hand was quicker: nothing of it is lost
    const who = one.fields ? props.lane?.name : `Pattern ${pattern?.name}`
    piece.editPattern(`${who}: begins from ${one.starter.name}`, () => begun)
    isOpen.value = false
  } catch (reason) {
    notices.complain(reason)
  }
}
function onKeyDown(event: KeyboardEvent) {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (by) {
    const here = found.value.findIndex((one) => one === heard.value)
    const next = found.value[(here + by + found.value.length) % found.value.length]
    if (next) void hear(next)
    panel.value
      ?.querySelector(`[data-key="${next && CSS.escape(keyOf(next))}"]`)
      ?.scrollIntoView({ block: 'nearest' })
  } else if (event.key === 'Enter' && heard.value) void take(heard.value)
  else return
  event.preventDefault()
  event.stopImmediatePropagation()
}

// ---- One's own ----
const ownName = ref('')
const ownTags = ref('')
async function keep(what: 'lane' | 'pattern') {
  letGo()
  const { lane } = props
  const { pattern } = piece
  const name = ownName.value.trim()
  if (!name || !pattern || (what === 'lane' && !lane)) return
  const known = ownTags.value.split(',').map((tag) => tag.trim()).filter(Boolean) // prettier-ignore
  try {
    await library.keepStarter({ name, tags: known, [what]: what === 'lane' ? lane : pattern })
    await again()
    kind.value = what
    typed.value = ''
    ownName.value = ''
    notices.say(`Kept “${name}” among your starters.`)
  } catch (reason) {
    notices.complain(reason)
  }
}
async function forget(one: ListedStarter) {
  if (one.id === null) return
  letGo()
  try {
    await library.deleteStarter(one.id)
    await again()
    notices.say(`“${one.starter.name}” is no longer among your starters.`, {
      label: 'Undo',
      act: async () => {
        await library.keepStarter(one.starter)
        await again()
      },
    })
  } catch (reason) {
    notices.complain(reason)
  }
}

useFocusBackFrom(isOpen)
const onToggle = (now: boolean) => now || letGo()
onUnmounted(letGo)
useShortcuts({ e: { says: 'Starters', act: () => (isOpen.value = !isOpen.value) } })
</script>

<template>
  <button
    v-tip="isOpen ? '' : 'Ready-made beginnings, heard in place (E)'"
    type="button"
    class="word-button"
    aria-haspopup="dialog"
  >
    Starters
    <v-menu
      v-model="isOpen"
      activator="parent"
      location="top start"
      :close-on-content-click="false"
      @after-enter="begin"
      @update:model-value="onToggle"
    >
      <section ref="panel" class="card starters" aria-label="Starters" @keydown="onKeyDown">
        <header>
          <input
            v-model="typed"
            class="search"
            type="search"
            placeholder="name or tag"
            aria-label="Look for starters"
          />
          <div class="kinds" role="group" aria-label="Kind of starter">
            <button type="button" :aria-pressed="kind === 'lane'" @click="kind = 'lane'">lanes</button>
            <button type="button" :aria-pressed="kind === 'pattern'" @click="kind = 'pattern'">
              patterns
            </button>
          </div>
        </header>
        <div class="tags">
          <button
            v-for="tag in tags"
            :key="tag"
            type="button"
            :aria-pressed="typed === tag"
            @click="typed = typed === tag ? '' : tag"
          >
            {{ tag }}
          </button>
        </div>
        <ul>
          <li v-for="one in found" :key="keyOf(one)" :data-key="keyOf(one)" :class="{ heard: one === heard }">
            <button
              type="button"
              class="one"
              :aria-pressed="one === heard"
              :aria-label="`Hear ${one.starter.name}`"
              @click="one === heard ? take(one) : hear(one)"
            >
              <b>{{ one.starter.name }}</b>
              <small>{{ one.id === null ? '' : 'yours · ' }}{{ one.starter.tags.join(' · ') }}</small>
              <MiniThread
                v-if="pictures.get(keyOf(one))"
                :picture="pictures.get(keyOf(one))!"
                :ink="lane?.ink ?? 0"
                :from="0"
                :end="BAR"
                :width="190"
              />
              <small v-else-if="one.starter.pattern" class="names">{{
                one.starter.pattern.lanes.map(({ name }) => name).join(', ')
              }}</small>
            </button>
            <button v-if="one === heard" type="button" class="word-button strong" @click="take(one)">
              {{ kind === 'lane' ? `Begin ${lane?.name} from it` : 'Begin the pattern from it' }}
            </button>
            <button v-else-if="one.id !== null" type="button" class="quiet-button" @click="forget(one)">
              delete
            </button>
          </li>
          <li v-if="found.length === 0" class="none">No starter is called or tagged like that.</li>
        </ul>
        <p class="hint">
          A click, or ↑ and ↓, lets you hear one in place; Enter takes it, Escape lets it go.
          <template v-if="kind === 'lane'">{{
            lane ? `It begins ${lane.name}.` : 'Choose a lane first.'
          }}</template>
        </p>
        <form class="keep" @submit.prevent>
          <input
            v-model="ownName"
            maxlength="80"
            placeholder="your own: its name"
            aria-label="Name of your starter"
          />
          <input
            v-model="ownTags"
            maxlength="200"
            placeholder="tags, with commas"
            aria-label="Tags of your starter"
          />
          <button
            type="button"
            class="word-button"
            :disabled="!ownName.trim() || !lane"
            @click="keep('lane')"
          >
            keep {{ lane?.name ?? 'lane' }}
          </button>
          <button type="button" class="word-button" :disabled="!ownName.trim()" @click="keep('pattern')">
            keep pattern
          </button>
        </form>
      </section>
    </v-menu>
  </button>
</template>

<style scoped>
.starters {
  width: 560px;
  padding: 14px;
  display: grid;
  gap: 8px;
}
header {
  display: flex;
  gap: 12px;
}
input {
  height: 36px;
  padding: 0 12px;
  border: 1.5px solid var(--rule);
  border-radius: 10px;
  color: var(--ink);
  font-size: 15px;
  min-width: 0;
}
input:focus-visible {
  border-color: var(--ink);
  outline: none;
}
.search {
  flex: 1;
}
.kinds,
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
}
.kinds button,
.tags button {
  min-height: 28px;
  padding: 0 10px;
  border-radius: 14px;
  font: 600 14px/1 var(--text-font);
  color: var(--soft-ink);
  cursor: pointer;
}
.kinds button {
  min-height: 36px;
}
.kinds [aria-pressed='true'],
.tags [aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.tags button:hover:not([aria-pressed='true']) {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
ul {
  height: 330px;
  overflow-y: auto;
  list-style: none;
  border-block: 1.5px solid var(--rule);
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  padding-right: 8px;
}
li.heard {
  background: color-mix(in srgb, var(--keep) 30%, transparent);
}
.one {
  flex: 1;
  min-width: 0;
  min-height: 34px;
  padding: 2px 8px;
  display: grid;
  grid-template-columns: 132px 1fr auto;
  gap: 10px;
  align-items: center;
  text-align: left;
  cursor: pointer;
}
.one:hover {
  background: color-mix(in srgb, var(--rule) 40%, transparent);
}
.one small {
  font-size: 13px;
  color: var(--soft-ink);
}
.one .names {
  grid-column: 2 / -1;
}
.none,
.hint {
  padding: 4px 8px;
  font-size: 14px;
  color: var(--soft-ink);
}
li .word-button {
  min-height: 28px;
  padding: 2px 10px;
}
.keep {
  display: grid;
  grid-template-columns: 1fr 1fr auto auto;
  gap: 6px;
  align-items: center;
}
</style>

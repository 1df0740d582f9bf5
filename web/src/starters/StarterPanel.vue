<script setup lang="ts">
/** Ready-made beginnings: looked for by name and tag, heard and seen in place while it plays, taken or let go. */
import { computed, ref, useTemplateRef, watch } from 'vue'

import { answer, api, type Lane, type LanePicture } from '@/api/client'
import { library, type ListedStarter } from '@/api/library'
import { useList } from '@/page/useLists'
import { useFocusBackFrom } from '@/page/useFocusBack'
import { useShortcuts } from '@/page/useShortcuts'
import { ticksOfBar } from '@/sound/time'
import MiniThread from '@/sentence/MiniThread.vue'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { isFound, tagsOf } from './looking'
import { isOfALane, useBeginning } from './useBeginning'

const props = defineProps<{ lane: Lane | null }>()
const piece = usePiece()
const notices = useNotices()
const isOpen = ref(false)
const panel = useTemplateRef<HTMLElement>('panel')
const pictures = ref(new Map<string, LanePicture>())
const typed = ref('')
type Kind = ListedStarter['kind']
const KINDS: readonly (readonly [Kind, string])[] = [['lane', 'lanes'], ['melody', 'melodies'], ['pattern', 'patterns'], ['ground', 'grounds'], ['piece', 'pieces']] // prettier-ignore
const kind = ref<Kind>('lane')
/** What is heard of a lane's starter: the chosen lane that begins anew, or one more; a melody comes on top. */
const isNew = ref(false)
watch(kind, (now) => (isNew.value = now === 'melody'))
/** The chosen lane as it stands, whatever is heard of it. */
const own = computed(() => piece.standing?.lanes.find(({ id }) => id === props.lane?.id) ?? null)
const { heard, hear, letGo, take } = useBeginning(() => (isNew.value ? null : own.value))
watch(isNew, () => heard.value && void hear(heard.value))
const FOUR_FOUR = { numerator: 4, denominator: 4 } as const
const BAR = ticksOfBar(FOUR_FOUR)

const ofKind = computed(() => starters.value.filter((one) => one.kind === kind.value))
const found = computed(() => ofKind.value.filter((one) => isFound(one, typed.value)))
const tags = computed(() => tagsOf(ofKind.value).slice(0, 14))
const keyOf = (one: ListedStarter) => `${one.id ?? 'ours'} ${one.starter.name}`

const { lines: starters, again } = useList(['starters'], library.starters, isOpen)
const begin = () => panel.value?.querySelector('input')?.focus()
watch([isOpen, ofKind], ([isSeen]) => {
  if (isSeen) void draw().catch(notices.complain)
})
/** All lane starters of a kind in one question, as if they were the lanes of a pattern. */
async function draw() {
  const { score, dice } = piece
  const lanes = ofKind.value.filter(isOfALane).slice(0, 64)
  if (!score || !lanes.length) return
  const voice = score.kit.voices[0]?.id ?? ''
  const drawn = lanes.map(({ kind, starter }, at) => ({
    ...(starter.lane as Lane),
    id: `starter-${at}`,
    ...(kind === 'lane' && { voice }),
  }))
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

const begins = computed(() => {
  if (kind.value === 'piece') return 'Begin the piece from it'
  if (kind.value === 'pattern' || kind.value === 'ground') return 'Begin the pattern from it'
  return own.value && !isNew.value ? `Begin ${own.value.name} from it` : 'Add it as a lane'
})
async function takeAndClose(one: ListedStarter) {
  if (await take(one)) isOpen.value = false
}
/** One more lane; the panel stays, so that several can be added one after the other. */
async function add(one: ListedStarter) {
  if (await take(one, null)) notices.say(`${one.starter.name} is the last lane now.`)
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
  } else if (event.key === 'Enter' && heard.value) void takeAndClose(heard.value)
  else return
  event.preventDefault()
  event.stopImmediatePropagation()
}

// ---- One's own ----
const ownName = ref('')
const ownTags = ref('')
async function keep(what: 'lane' | 'pattern') {
  letGo()
  const lane = own.value
  const { pattern } = piece
  const name = ownName.value.trim()
  if (!name || !pattern || (what === 'lane' && !lane)) return
  const known = ownTags.value.split(',').map((tag) => tag.trim()).filter(Boolean) // prettier-ignore
  await notices.attempt(async () => {
    const starter = await library.keepStarter({ name, tags: known, [what]: what === 'lane' ? lane : pattern })
    await again()
    kind.value = starter.kind
    typed.value = ''
    if (ownName.value.trim() === name) ownName.value = ''
    notices.say(`Kept “${name}” among your starters.`)
  })
}
async function forget(one: ListedStarter) {
  const { id } = one
  if (id === null) return
  letGo()
  await notices.attempt(async () => {
    await library.deleteStarter(id)
    await again()
    notices.say(`“${one.starter.name}” is no longer among your starters.`, {
      label: 'Undo',
      act: async () => {
        await library.keepStarter(one.starter)
        await again()
      },
    })
  })
}

useFocusBackFrom(isOpen)
const onToggle = (now: boolean) => now || letGo()
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
            <button
              v-for="[one, called] in KINDS"
              :key="one"
              type="button"
              :aria-pressed="kind === one"
              @click="kind = one"
            >
              {{ called }}
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
              @click="one === heard ? takeAndClose(one) : hear(one)"
            >
              <b><span class="visually-hidden">Hear </span>{{ one.starter.name }}</b>
              <small>{{ one.id === null ? '' : 'yours · ' }}{{ one.starter.tags.join(' · ') }}</small>
              <MiniThread
                v-if="pictures.get(keyOf(one))"
                :picture="pictures.get(keyOf(one))!"
                :ink="lane?.ink ?? 0"
                :from="0"
                :end="BAR"
                :width="190"
              />
              <small v-else-if="!isOfALane(one)" class="names">{{
                (one.starter.pattern ?? one.starter.piece?.patterns[0])?.lanes
                  .map(({ name }) => name)
                  .join(', ')
              }}</small>
            </button>
            <button v-if="one === heard" type="button" class="word-button strong" @click="takeAndClose(one)">
              {{ begins }}
            </button>
            <button
              v-if="isOfALane(one) && (one !== heard || !isNew)"
              v-tip="'One more lane, which plays it'"
              type="button"
              class="word-button"
              :aria-label="`Add ${one.starter.name} as a lane`"
              @click="add(one)"
            >
              + lane
            </button>
            <button
              v-if="one !== heard && one.id !== null"
              type="button"
              class="quiet-button"
              @click="forget(one)"
            >
              delete
            </button>
          </li>
          <li v-if="found.length === 0" class="none">No starter is called or tagged like that.</li>
        </ul>
        <div
          v-if="lane && (kind === 'lane' || kind === 'melody')"
          class="kinds"
          role="group"
          aria-label="Where it is heard"
        >
          <button type="button" :aria-pressed="!isNew" @click="isNew = false">
            in place of {{ own?.name }}
          </button>
          <button type="button" :aria-pressed="isNew" @click="isNew = true">as one more lane</button>
        </div>
        <p class="hint">
          A click, or ↑ and ↓, lets you hear one in place; Enter takes it, Escape lets it go.
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
            keep {{ own?.name ?? 'lane' }}
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
  width: min(640px, 96vw);
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

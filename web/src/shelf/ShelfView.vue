<script setup lang="ts">
/** The musician's pieces. */
import { ref } from 'vue'
import { useRouter } from 'vue-router'

import { answer, api, importPiece, type ShelfPiece } from '@/api/client'
import ExportLink from '@/page/ExportLink.vue'
import NameField from '@/page/NameField.vue'
import { useLongWork } from '@/page/longWork'
import { useNotices } from '@/page/notices'
import { usePages } from '@/page/useLists'
import { usePiece } from '@/work/piece'
import { sayAge } from '@/page/age'
import PieceCover from './PieceCover.vue'

const notices = useNotices()
const work = useLongWork()
const open = usePiece()
const router = useRouter()
const {
  page,
  lines: pieces,
  more,
  again: load,
} = usePages(
  ['pieces'],
  async (first) => {
    await open.saveNow()
    return answer(api.GET('/api/pieces', { params: { query: { first } } }))
  },
  (found) => found.pieces,
)

const at = (piece: ShelfPiece) => ({ params: { path: { piece_id: piece.id } } })

const begin = () =>
  notices.attempt(async () => {
    const made = await answer(api.POST('/api/pieces', { body: { name: 'New piece', document: null } }))
    await router.push(`/lattice/${made.id}`)
  })

// ---- Pieces as files ----
const chooser = ref<HTMLInputElement>()
async function take(files: FileList | null | undefined) {
  const file = files?.[0]
  if (!file) return
  const made = await work.during(
    `“${file.name}” is being imported …`,
    async (signal) => importPiece(await file.text(), signal),
    { about: `${file.name} was not taken` },
  )
  if (chooser.value) chooser.value.value = ''
  if (!made) return
  notices.say(`“${made.document.name}” is on the shelf.`)
  await load()
}

async function putAway() {
  await open.saveNow()
  open.close()
}

async function rename(piece: ShelfPiece, name: string) {
  try {
    // The open piece would otherwise be saved over by an older name.
    if (piece.id === open.id) await putAway()
    await answer(api.PATCH('/api/pieces/{piece_id}', { ...at(piece), body: { name } }))
  } catch (reason) {
    notices.complain(reason)
  }
  await load()
}

const remove = (piece: ShelfPiece) =>
  notices.attempt(async () => {
    if (piece.id === open.id) await putAway()
    await answer(api.DELETE('/api/pieces/{piece_id}', at(piece)))
    await load()
    notices.say(`“${piece.name}” is deleted.`, { label: 'Undo', act: () => restore(piece) })
  })

const restore = (piece: ShelfPiece) =>
  notices.attempt(async () => {
    await answer(api.POST('/api/pieces/{piece_id}/restore', at(piece)))
    await load()
  })
</script>

<template>
  <main class="shelf">
    <header>
      <h1>Shelf</h1>
      <button type="button" class="word-button strong" @click="begin">New piece</button>
      <button
        v-tip="'A piece that was exported as JSON'"
        type="button"
        class="word-button"
        @click="chooser?.click()"
      >
        Import a piece
      </button>
      <input
        ref="chooser"
        class="visually-hidden"
        type="file"
        accept="application/json,.json"
        aria-label="File of a piece"
        tabindex="-1"
        @change="take(chooser?.files)"
      />
    </header>
    <ul>
      <li v-for="piece in pieces" :key="piece.id" class="piece" :data-piece="piece.id">
        <p v-if="piece.unreadable" class="cover broken">
          It cannot be read any more, and is kept as it is. {{ piece.unreadable }}
        </p>
        <RouterLink v-else :to="`/lattice/${piece.id}`" class="cover" :aria-label="`Open ${piece.name}`">
          <PieceCover :threads="piece.threads" />
        </RouterLink>
        <div class="about">
          <b v-if="piece.unreadable" class="named">{{ piece.name }}</b>
          <NameField
            v-else
            :name="piece.name"
            label="Name of the piece"
            @rename="(name) => rename(piece, name)"
          />
          <p v-if="!piece.unreadable">
            {{ piece.tempo }} BPM · {{ piece.meter }} · {{ piece.threads.length }}
            {{ piece.threads.length === 1 ? 'lane' : 'lanes' }}
          </p>
          <div class="end">
            <span title="when it was last changed">{{ sayAge(piece.changed_at) }}</span>
            <ExportLink
              class="quiet-button"
              :href="`/api/pieces/${piece.id}.json`"
              :name="`${piece.name}.json`"
              :aria-label="`Export ${piece.name}`"
              >Export</ExportLink
            >
            <button
              type="button"
              class="quiet-button"
              :aria-label="`Delete ${piece.name}`"
              @click="remove(piece)"
            >
              Delete
            </button>
            <RouterLink
              v-if="!piece.unreadable"
              :to="`/lattice/${piece.id}`"
              class="word-button strong"
              tabindex="-1"
              aria-hidden="true"
              >Open</RouterLink
            >
          </div>
        </div>
      </li>
    </ul>
    <button v-if="page && pieces.length < page.total" type="button" class="word-button" @click="more">
      More: {{ page.total - pieces.length }} are left
    </button>
    <div v-if="page && !pieces.length" class="empty">
      <h2>The shelf is empty</h2>
      <p>Begin a piece: with a starter, with a ground to wander over, or with a lane of your own.</p>
      <button type="button" class="word-button strong" @click="begin">Begin a piece</button>
    </div>
  </main>
</template>

<style scoped>
.shelf {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 20px 32px 40px;
}
header {
  display: flex;
  align-items: center;
  gap: 20px;
  margin-bottom: 18px;
}
h1 {
  font-size: 28px;
}
ul {
  list-style: none;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(320px, 1fr));
  gap: 22px;
}
.piece {
  background: var(--card);
  border: 1.5px solid var(--rule);
  border-radius: 14px;
  overflow: hidden;
}
.piece:hover,
.piece:focus-within {
  border-color: var(--ink);
}
.cover {
  display: block;
  position: relative;
  height: 150px;
  color: var(--ink);
  text-decoration: none;
  overflow: hidden;
}
.about {
  padding: 12px 18px 14px;
  border-top: 1.5px solid var(--rule);
  line-height: 22px;
}
.end {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-top: 8px;
  font-size: 14px;
  color: var(--soft-ink);
}
.end a.quiet-button {
  display: grid;
  align-items: center;
  text-decoration: none;
}
.end span {
  flex: 1;
}
.end .word-button {
  padding: 6px 18px;
  text-decoration: none;
}
.empty {
  display: grid;
  justify-items: start;
  gap: 14px;
  max-width: 480px;
  padding: 60px 0;
}
.broken {
  padding: 16px;
  overflow: auto;
  font-size: 14px;
  color: var(--act-text);
}
</style>

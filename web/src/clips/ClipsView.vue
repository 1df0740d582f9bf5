<script setup lang="ts">
/** Kept clips: their note sheets, where they came from, and the way out as MIDI. */
import { ref, shallowRef } from 'vue'

import { clipsApi } from '@/api/clips'
import type { KeptClip } from '@/api/client'
import NameField from '@/app/NameField.vue'
import NoteSheet from '@/sheet/NoteSheet.vue'
import { useNotices } from '@/stores/notices'

const notices = useNotices()
const clips = shallowRef<KeptClip[]>([])
const isLoaded = ref(false)

async function load() {
  try {
    clips.value = await clipsApi.list()
  } catch (reason) {
    notices.complain(reason, { label: 'Try again', act: load })
  } finally {
    isLoaded.value = true
  }
}
void load()

async function rename(clip: KeptClip, name: string) {
  try {
    const renamed = await clipsApi.rename(clip.id, name)
    clips.value = clips.value.map((one) => (one.id === clip.id ? renamed : one))
  } catch (reason) {
    notices.complain(reason)
    await load()
  }
}

async function remove(clip: KeptClip) {
  try {
    await clipsApi.delete(clip.id)
    clips.value = clips.value.filter((one) => one.id !== clip.id)
    notices.say(`“${clip.document.name}” is deleted.`, { label: 'Undo', act: () => restore(clip) })
  } catch (reason) {
    notices.complain(reason)
  }
}

async function restore(clip: KeptClip) {
  try {
    await clipsApi.restore(clip.id)
    await load()
  } catch (reason) {
    notices.complain(reason)
  }
}

const facts = ({ bars, notes, document: { tempo, meter } }: KeptClip) =>
  `${bars} ${bars === 1 ? 'bar' : 'bars'} · ${tempo} BPM · ${meter.numerator}/${meter.denominator} · ${notes} notes`

function from({ document: { origin } }: KeptClip): string {
  if (!origin) return ''
  const last = origin.first_bar + origin.bars
  const bars = origin.bars === 1 ? `bar ${last}` : `bars ${origin.first_bar + 1}–${last}`
  return `from ${origin.piece}, pattern ${origin.pattern}, ${bars}, dice ${origin.dice}`
}
const when = (clip: KeptClip) =>
  new Date(clip.created_at).toLocaleString('en', { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <main class="clips">
    <header>
      <h1>Clips</h1>
      <p v-if="clips.length">What you kept, to the note. A clip never changes with the piece it came from.</p>
    </header>
    <ul>
      <li v-for="clip in clips" :key="clip.id" class="clip" :data-clip="clip.id">
        <NoteSheet :clip="clip.document" :bars="clip.bars" :width="520" :height="104" class="notes" />
        <div class="about">
          <NameField
            :name="clip.document.name"
            label="Name of the clip"
            @rename="(name) => rename(clip, name)"
          />
          <p>{{ facts(clip) }}</p>
          <p class="soft">{{ from(clip) }}</p>
          <p class="soft">kept {{ when(clip) }}</p>
        </div>
        <div class="acts">
          <a class="word-button strong" :href="clipsApi.file(clip.id)" download>Download .mid</a>
          <button
            type="button"
            class="quiet-button"
            :aria-label="`Delete ${clip.document.name}`"
            @click="remove(clip)"
          >
            Delete
          </button>
        </div>
      </li>
    </ul>
    <div v-if="isLoaded && !clips.length" class="empty">
      <h2>No clip yet</h2>
      <p>
        Open a piece, press play, and when something good went by press <b>Keep</b>: the tape has been running
        all the time.
      </p>
      <RouterLink class="word-button strong" to="/">To the shelf</RouterLink>
    </div>
  </main>
</template>

<style scoped>
.clips {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 20px 32px 40px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 18px;
  margin-bottom: 14px;
  color: var(--soft-ink);
}
h1 {
  font-size: 28px;
  color: var(--ink);
}
ul {
  list-style: none;
  display: grid;
  gap: 12px;
}
.clip {
  display: grid;
  grid-template-columns: 520px 1fr auto;
  gap: 22px;
  align-items: center;
  padding: 12px 18px 12px 12px;
  background: var(--card);
  border: 1.5px solid var(--rule);
  border-radius: 14px;
}
.notes {
  background: color-mix(in srgb, var(--paper) 70%, var(--card));
  border-radius: 8px;
}
.about {
  min-width: 0;
  font-size: 15px;
  line-height: 21px;
}
.soft {
  font-size: 14px;
  color: var(--soft-ink);
}
.acts {
  display: grid;
  gap: 8px;
  justify-items: center;
}
.word-button {
  display: inline-block;
  text-decoration: none;
}
.empty {
  display: grid;
  justify-items: start;
  gap: 14px;
  max-width: 520px;
  padding: 60px 0;
}
@media (max-width: 1200px) {
  .clip {
    grid-template-columns: 1fr auto;
  }
  .notes {
    grid-column: 1 / -1;
  }
}
</style>

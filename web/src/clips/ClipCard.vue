<script setup lang="ts">
/** One clip of the collection: heard at a click, named, tagged, and exported. */
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'

import { clipsApi } from '@/api/clips'
import type { ClipLine } from '@/api/client'
import NameField from '@/page/NameField.vue'
import NoteSheet from '@/sheet/NoteSheet.vue'
import { ticksOfBar } from '@/sound/time'
import { factsOf, originOf } from './said'

const props = defineProps<{
  clip: ClipLine
  isHeard: boolean
  nowTick: number | null
  /** Whether a piece is open whose lanes it could play in place of. */
  canPlace: boolean
}>()
const emit = defineEmits<{
  hear: []
  describe: [fields: { name?: string; tags?: string[]; set_name?: string }]
  place: []
  /** What opens beside a button: the menus of a long list are one. */
  menu: [kind: 'export' | 'more', beside: HTMLElement]
}>()
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const barTicks = computed(() => ticksOfBar(props.clip.meter))
const tags = ref<string | null>(null)

function saveTags() {
  if (tags.value === null) return
  const fresh = tags.value.split(',').map((tag) => tag.trim())
  tags.value = null
  emit('describe', { tags: fresh.filter(Boolean) })
}
function chooseSet(event: Event) {
  const set_name = (event.target as HTMLInputElement).value.trim()
  if (set_name !== props.clip.set_name) emit('describe', { set_name })
}
/** Out of the page, where the browser allows it: as a MIDI file. */
function dragOut(event: DragEvent) {
  const address = new URL(clipsApi.file(props.clip.id), location.href).href
  const name = props.clip.name.replace(/[\\/:*?"<>|]+/g, '-')
  event.dataTransfer?.setData('DownloadURL', `audio/midi:${name}.mid:${address}`)
  event.dataTransfer?.setData('text/uri-list', address)
}
</script>

<template>
  <li class="clip" :class="{ heard: isHeard }" :data-clip="clip.id">
    <button
      ref="box"
      type="button"
      class="notes"
      draggable="true"
      title="Click to hear it, drag it out as a MIDI file"
      :aria-label="`Hear ${clip.name}`"
      :aria-pressed="isHeard"
      @click="emit('hear')"
      @dragstart="dragOut"
    >
      <NoteSheet
        :name="clip.name"
        :tracks="clip.tracks"
        :length-ticks="clip.length_ticks"
        :bar-ticks="barTicks"
        :width="width"
        :height="104"
        :now-tick="nowTick"
      />
    </button>
    <div class="about">
      <NameField :name="clip.name" label="Name of the clip" @rename="(name) => emit('describe', { name })" />
      <p v-if="clip.unreadable" class="broken">{{ clip.unreadable }}</p>
      <p v-else>{{ factsOf(clip) }}</p>
      <p class="soft">{{ originOf(clip) }}</p>
      <p class="labels">
        <input
          v-shown="clip.set_name"
          class="small-field set"
          list="clip-sets"
          maxlength="80"
          placeholder="no set"
          :aria-label="`Set of ${clip.name}`"
          @change="chooseSet"
        />
        <button v-if="tags === null" type="button" class="quiet-button" @click="tags = clip.tags.join(', ')">
          <span class="visually-hidden">Tags of {{ clip.name }}: </span>
          <span v-for="tag in clip.tags" :key="tag" class="tag">{{ tag }}</span>
          {{ clip.tags.length ? '' : '+ tags' }}
        </button>
        <input
          v-else
          v-model="tags"
          autofocus
          class="small-field"
          :aria-label="`Tags of ${clip.name}, with commas between`"
          placeholder="with commas between"
          @keydown.enter="saveTags"
          @keydown.escape="tags = null"
          @blur="saveTags"
        />
      </p>
    </div>
    <div class="acts">
      <RouterLink class="word-button strong" :to="`/clips/${clip.id}`">Work on it</RouterLink>
      <button v-if="canPlace" type="button" class="word-button" @click="emit('place')">Play in place</button>
      <button
        type="button"
        class="word-button"
        :aria-label="`Export ${clip.name}`"
        @click="(event) => emit('menu', 'export', event.currentTarget as HTMLElement)"
      >
        Export …
      </button>
      <button
        type="button"
        class="quiet-button"
        :aria-label="`More of ${clip.name}`"
        @click="(event) => emit('menu', 'more', event.currentTarget as HTMLElement)"
      >
        more …
      </button>
    </div>
  </li>
</template>

<style scoped>
.clip {
  display: grid;
  grid-template-columns: minmax(300px, 1fr) minmax(300px, 420px) auto;
  gap: 22px;
  align-items: center;
  padding: 12px 18px 12px 12px;
  background: var(--card);
  border: 1.5px solid var(--rule);
  border-radius: 14px;
}
.clip.heard {
  border-color: var(--act);
  box-shadow: 0 0 0 1.5px var(--act);
}
.notes {
  height: 104px;
  min-width: 0;
  overflow: hidden;
  cursor: pointer;
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
.labels {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-top: 4px;
}
.set {
  width: 130px;
}
.tag {
  margin-right: 4px;
  padding: 1px 9px;
  border-radius: 10px;
  background: color-mix(in srgb, var(--keep) 35%, var(--card));
  color: var(--ink);
}
.acts {
  display: grid;
  grid-template-columns: auto auto;
  gap: 8px;
  justify-items: stretch;
  text-align: center;
}
.acts a {
  text-decoration: none;
  display: grid;
  place-items: center;
}
.broken {
  color: var(--act-text);
}
</style>

<script setup lang="ts">
/** How clips are exported: what the files hold, and as what. */
import { computed, reactive, ref } from 'vue'

import { Export as LIMITS } from '@/api/limits.json'
import { clipsApi, PLAIN_EXPORT, type Export } from '@/api/clips'
import { answer, api, type Schemas } from '@/api/client'
import { orderApi } from '@/engine/order'
import ExportLink from '@/page/ExportLink.vue'
import { useLongWork } from '@/page/longWork'
import { useNotices } from '@/page/notices'
import { saveFile } from '@/page/saveFile'
import { usePiece } from '@/work/piece'
import { useLoops } from '@/playing/loops'
import { loopOfClip } from './loopOf'

/** One clip; several, as one zip; or neither: bars of the pattern that is open, or the running order. */
const props = defineProps<{
  order?: boolean
  clip?: { id: number; name: string }
  several?: { ids: number[] } | { set_name: string }
}>()
const loops = useLoops()
const notices = useNotices()
const work = useLongWork()
const how = reactive<Export & { key: string }>({ ...PLAIN_EXPORT, key: '' })
const asked = computed(() => {
  const { key, ...rest } = how
  return key ? { ...rest, key } : rest
})
const href = computed(() =>
  props.clip
    ? clipsApi.file(props.clip.id, asked.value)
    : clipsApi.zip(props.several ?? { ids: [] }, asked.value),
)
const fileName = computed(() => {
  if (props.clip) return `${props.clip.name}.mid`
  return `${props.several && 'set_name' in props.several ? props.several.set_name : 'clips'}.zip`
})

// ---- The pattern ----
const piece = usePiece()
const bars = ref(piece.pattern?.bars ?? 8)
async function exportPattern() {
  const { score, document, pattern, dice } = piece
  if (!score || !document || !pattern) return
  const { key, ...rest } = how
  const body: Schemas['FileQuestion'] = {
    score, dice, piece: document.name, pattern: pattern.name, window: { first_bar: 0, bars: bars.value },
    export: { ...rest, key: (key || null) as NonNullable<Schemas['Export']['key']> | null },
  } // prettier-ignore
  const name = `${document.name} ${pattern.name}.mid`
  await work.during(`“${name}” is being written …`, async (signal) => {
    const file = await answer(api.POST('/api/render/midi', { body, parseAs: 'blob', signal }))
    if (file instanceof Blob) saveFile(file, name)
  })
}

async function exportOrder() {
  const { document } = piece
  if (!document) return
  const { key, ...rest } = how
  const choices = { ...rest, key: (key || null) as NonNullable<Schemas['Export']['key']> | null }
  await work.during('The order is being written …', async (signal) => {
    const { name, blob } = await orderApi.file(document, 'whole', choices, signal)
    saveFile(blob, name)
  })
}

const isRendering = ref(false)
async function exportWav() {
  const { clip } = props
  if (!clip) return
  isRendering.value = true
  const name = `${clip.name}.wav`
  await work.during(`“${name}” is being rendered …`, async (signal) => {
    const bytes = await loops.renderWav(loopOfClip(await clipsApi.open(clip.id)))
    if (!signal.aborted) saveFile(new Blob([bytes], { type: 'audio/wav' }), name)
  })
  isRendering.value = false
}
async function copyText() {
  if (!props.clip) return
  try {
    await navigator.clipboard.writeText(await clipsApi.text(props.clip.id))
    notices.say('The notes lie on the clipboard, as text.')
  } catch {
    notices.complain('The browser lets nothing onto the clipboard here.')
  }
}
</script>

<template>
  <div class="card export">
    <div class="fields">
      <label>
        <span>file</span>
        <select v-model="how.type" class="small-field" aria-label="Type of file">
          <option :value="1">type 1, a track a lane</option>
          <option :value="0">type 0, all in one track</option>
        </select>
      </label>
      <label>
        <span>ticks to the quarter</span>
        <select v-model="how.resolution" class="small-field" aria-label="Ticks to the quarter">
          <option v-for="one in [96, 480, 960, 13440]" :key="one" :value="one">{{ one }}</option>
        </select>
      </label>
      <label>
        <span>repeats</span>
        <input
          v-model.number="how.repeats"
          aria-label="Repeats"
          class="small-field"
          type="number"
          v-bind="LIMITS.repeats"
        />
      </label>
      <label>
        <span>note numbers</span>
        <select v-model="how.drums" class="small-field" aria-label="Note numbers">
          <option value="lanes">as the lanes have them</option>
          <option value="general-midi">General MIDI drums</option>
        </select>
      </label>
      <label>
        <span>key</span>
        <select v-model="how.key" class="small-field" aria-label="Key">
          <option value="">as the clip says</option>
          <option v-for="key in LIMITS.key.options" :key="key" :value="key">{{ key }}</option>
        </select>
      </label>
      <label>
        <span>climb of kit voices</span>
        <select v-model="how.bends" class="small-field" aria-label="Climb of kit voices">
          <option :value="false">left out</option>
          <option :value="true">as pitch bend</option>
        </select>
      </label>
      <label class="check"><input v-model="how.markers" type="checkbox" /> a marker at each bar</label>
      <label v-if="!clip && !several" class="check"
        ><input v-model="how.moves" type="checkbox" /> movements as controllers too</label
      >
    </div>
    <p class="words">
      In MIDI a controller moves all lanes of its channel. A ratchet that climbs on a voice of the kit tunes
      its sound: a file leaves that out, or has it as pitch bend, which bends the whole channel.
    </p>
    <ExportLink v-if="clip || several" class="word-button strong" :href="href" :name="fileName">{{
      clip ? 'Export .mid' : 'Export .zip'
    }}</ExportLink>
    <button v-else-if="order" type="button" class="word-button strong" @click="exportOrder">
      Export the order as .mid
    </button>
    <template v-else>
      <label>
        <span>bars, from bar 1</span>
        <input
          v-model.number="bars"
          class="small-field"
          type="number"
          min="1"
          max="64"
          aria-label="Bars of the file"
        />
      </label>
      <button type="button" class="word-button strong" @click="exportPattern">Export .mid</button>
    </template>
    <template v-if="clip">
      <button type="button" class="word-button" :disabled="isRendering" @click="exportWav">
        Export .wav
      </button>
      <button type="button" class="quiet-button" @click="copyText">Copy the notes as text</button>
    </template>
  </div>
</template>

<style scoped>
.export {
  display: grid;
  gap: 8px;
  padding: 14px 16px;
  justify-items: stretch;
  text-align: center;
}
.fields {
  display: grid;
  gap: 6px;
}
label {
  display: grid;
  grid-template-columns: 140px 1fr;
  align-items: center;
  gap: 10px;
  font-size: 14px;
  text-align: left;
}
.check {
  display: flex;
  min-height: 32px;
}
.check input {
  appearance: auto;
  width: 18px;
  height: 18px;
  accent-color: var(--act-text);
}
.words {
  max-width: 320px;
  font-size: 13px;
  line-height: 1.35;
  color: var(--soft-ink);
  text-align: left;
}
a {
  text-decoration: none;
}
</style>

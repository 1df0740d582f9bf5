<script setup lang="ts">
/** The one tip there is: it tells what the control does on which the pointer rests. */
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onScopeDispose, ref, shallowRef, useTemplateRef } from 'vue'

import { placedBeside } from '@/page/placing'
import { tipOf } from '@/page/tip'

const RESTS_MS = 700
const GAP = 8

const shown = shallowRef<{ of: Element; text: string } | null>(null)
const place = ref({ x: 0, y: 0 })
const layer = useTemplateRef<HTMLElement>('layer')
let waiting: ReturnType<typeof setTimeout> | undefined

function hide() {
  clearTimeout(waiting)
  shown.value?.of.removeAttribute('aria-describedby')
  shown.value = null
}
async function show(of: Element) {
  const text = tipOf(of)
  if (!text || !of.isConnected) return
  hide()
  shown.value = { of, text }
  of.setAttribute('aria-describedby', 'tip')
  await nextTick()
  const [its, own] = [of.getBoundingClientRect(), layer.value?.getBoundingClientRect()]
  if (!own) return
  place.value = placedBeside(its, own, GAP, 'above')
}
const controlAt = ({ target }: Event) => (target instanceof Element ? target.closest('[data-tip]') : null)

useEventListener(document, 'pointerover', (event) => {
  const of = controlAt(event)
  if (of === shown.value?.of) return
  hide()
  if (of && event.pointerType !== 'touch') waiting = setTimeout(() => void show(of), RESTS_MS)
})
for (const gone of ['focusout', 'pointerdown', 'keydown', 'wheel'] as const)
  useEventListener(document, gone, hide, { capture: true, passive: true })
onScopeDispose(hide)

const style = computed(() => ({ transform: `translate(${place.value.x}px, ${place.value.y}px)` }))
</script>

<template>
  <div v-if="shown" id="tip" ref="layer" class="tip" role="tooltip" :style="style">{{ shown.text }}</div>
</template>

<style scoped>
.tip {
  position: fixed;
  left: 0;
  top: 0;
  z-index: 4000;
  max-width: 300px;
  padding: 5px 12px;
  border: 1px solid transparent; /* seen where the system decides on colours */
  border-radius: 8px;
  background: var(--ink);
  color: var(--paper);
  font: 500 13px/1.35 var(--text-font);
  white-space: pre-line;
  pointer-events: none;
}
</style>

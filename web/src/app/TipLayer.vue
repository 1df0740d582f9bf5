<script setup lang="ts">
/** The one tip there is: it tells what the control does on which the pointer rests. */
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, useTemplateRef, watch } from 'vue'

import { placedBeside } from '@/page/placing'
import { tipOf } from '@/page/tip'

const RESTS_MS = 700
const GAP = 8

const shown = shallowRef<Element | null>(null)
const text = computed(() => (shown.value ? tipOf(shown.value) : ''))
const place = ref({ x: 0, y: 0 })
const layer = useTemplateRef<HTMLElement>('layer')
const { start: showSoon, stop: showNot } = useTimeoutFn((of: Element) => show(of), RESTS_MS, {
  immediate: false,
})

function hide() {
  showNot()
  shown.value?.removeAttribute('aria-describedby')
  shown.value = null
}
function show(of: Element) {
  if (!tipOf(of) || !of.isConnected) return
  hide()
  shown.value = of
  of.setAttribute('aria-describedby', 'tip')
}
// What the control does may change while the pointer rests on it.
watch(
  [shown, text],
  ([of, says]) => {
    if (!says) return hide()
    const own = layer.value?.getBoundingClientRect()
    if (of && own) place.value = placedBeside(of.getBoundingClientRect(), own, GAP, 'above')
  },
  { flush: 'post' },
)
const controlAt = ({ target }: Event) => (target instanceof Element ? target.closest('[data-tip]') : null)

useEventListener(document, 'pointerover', (event) => {
  const of = controlAt(event)
  if (of && of === shown.value) return
  hide()
  if (of && event.pointerType !== 'touch') showSoon(of)
})
// The pointer has left the page.
useEventListener(document, 'pointerout', (event) => !event.relatedTarget && hide())
for (const gone of ['focusout', 'pointerdown', 'keydown', 'wheel'] as const)
  useEventListener(document, gone, hide, { capture: true, passive: true })
onScopeDispose(hide)

const style = computed(() => ({ transform: `translate(${place.value.x}px, ${place.value.y}px)` }))
</script>

<template>
  <!-- A landmark as all that can be read is in one, dialogs or not. -->
  <section v-if="text" aria-label="Tip">
    <div id="tip" ref="layer" class="tip" role="tooltip" :style="style">{{ text }}</div>
  </section>
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

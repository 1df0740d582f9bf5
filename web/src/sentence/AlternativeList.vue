<script setup lang="ts">
/** Alternatives, or offers, each drawn as the thread it would make. They are asked for when the list opens. */
import { computed, onMounted, ref, shallowRef, useId, useTemplateRef } from 'vue'

import type { Alternative } from '@/api/client'
import { useView } from '@/engine/useView'
import { barsOn, startOfBar } from '@/sound/time'
import MiniThread from './MiniThread.vue'

const props = defineProps<{
  ask: () => Promise<Alternative[]>
  ink: number
  barTicks: number
  label: string
}>()
const emit = defineEmits<{ choose: [alternative: Alternative] }>()

const found = shallowRef<readonly Alternative[]>([])
/** Offers explain themselves and stand one a line; many short words stand side by side. */
const isOffers = computed(() => found.value.some(({ explains }) => explains))
const isMany = computed(() => found.value.length > 9 && !isOffers.value)
const problem = ref('')
const id = useId()
/** Of what explains an offer: it describes it, and is no part of its name. */
const idOf = (one: Alternative) => `${id}-${found.value.indexOf(one)}`
const list = useTemplateRef<HTMLElement>('list')
const { first_bar, bars } = useView().window
const [from, second, end] = [0, 1, Math.min(2, bars)].map((bar) => startOfBar(barsOn(first_bar, bar), props.barTicks)) as [number, number, number] // prettier-ignore

onMounted(async () => {
  try {
    found.value = await props.ask()
  } catch (reason) {
    problem.value = reason instanceof Error ? reason.message : String(reason)
  }
})

/** Arrows go through the list. */
function onKeyDown(event: KeyboardEvent) {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const buttons = [...(list.value?.querySelectorAll('button') ?? [])]
  const at = buttons.indexOf(document.activeElement as HTMLButtonElement)
  buttons[(at + by + buttons.length) % buttons.length]?.focus()
}
</script>

<template>
  <div role="dialog" :aria-label="`${label}: choose`">
    <div class="card list" role="group" :aria-label="label" :aria-busy="!found.length && !problem">
      <p v-if="problem" role="alert">{{ problem }}</p>
      <p v-else-if="!found.length" class="waiting">…</p>
      <ul ref="list" :class="{ many: isMany, offers: isOffers }" @keydown="onKeyDown">
        <li v-for="one in found" :key="one.key">
          <button
            type="button"
            class="alternative"
            :class="{ chosen: one.chosen }"
            :aria-pressed="one.chosen"
            :aria-describedby="one.explains ? idOf(one) : undefined"
            @click="emit('choose', one)"
          >
            <span class="words">
              <strong>{{ one.text }}</strong>
              <small v-if="one.explains" :id="idOf(one)" aria-hidden="true">{{ one.explains }}</small>
            </span>
            <MiniThread
              v-if="one.thread"
              :picture="one.thread"
              :ink="ink"
              :from="from"
              :end="isMany ? second : end"
              :width="isMany ? 130 : 260"
            />
          </button>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.list {
  padding: 8px;
  max-height: 72vh;
  overflow: auto;
}
ul {
  list-style: none;
}
ul.many {
  columns: 3;
  column-gap: 6px;
}
.waiting {
  padding: 8px 40px;
  color: var(--soft-ink);
}
.alternative {
  display: flex;
  align-items: center;
  gap: 16px;
  width: 100%;
  min-height: 38px;
  padding: 4px 8px 4px 12px;
  border-radius: 9px;
  text-align: left;
  font: 500 15px/1.25 var(--text-font);
  cursor: pointer;
  break-inside: avoid;
}
.many .alternative {
  gap: 8px;
  padding: 2px 6px 2px 8px;
  min-height: 32px;
  font-size: 14px;
}
.words {
  flex: 1;
  display: grid;
  gap: 1px;
}
.offers .alternative {
  min-height: 33px;
  padding-block: 2px;
}
.offers .words {
  grid-template-columns:
    minmax(232px, max-content)
    1fr; /* aligned, and the longest never lies over what explains it */
  align-items: baseline;
}
.words strong {
  font-weight: 600;
  white-space: nowrap;
}
.words small {
  font-size: 14px;
  font-weight: 400;
  white-space: nowrap;
  color: var(--soft-ink);
}
.alternative:hover,
.alternative:focus-visible {
  background: color-mix(in srgb, var(--rule) 55%, transparent);
}
.alternative.chosen {
  background: color-mix(in srgb, var(--keep) 38%, transparent);
  box-shadow: inset 0 0 0 1.5px var(--keep);
}
</style>

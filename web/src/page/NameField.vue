<script setup lang="ts">
/** A name that can be typed over where it stands. Enter or leaving takes it, Escape brings the old one back. */
import { ref, watch } from 'vue'

const props = defineProps<{ name: string; label: string }>()
const emit = defineEmits<{ rename: [name: string] }>()
const typed = ref(props.name)
const field = ref<HTMLInputElement>()

// What is typed while an earlier name is on its way stays.
watch(
  () => props.name,
  (name, before) => {
    if (typed.value === before || document.activeElement !== field.value) typed.value = name
  },
)
function take() {
  const name = typed.value.trim()
  if (!name) typed.value = props.name
  else if (name !== props.name) emit('rename', name)
}
function giveUp() {
  typed.value = props.name
  field.value?.blur()
}
defineExpose({ focus: () => field.value?.select() })
</script>

<template>
  <input
    ref="field"
    v-model="typed"
    class="name-field named"
    maxlength="80"
    :aria-label="label"
    :title="label"
    spellcheck="false"
    @blur="take"
    @keydown.enter="field?.blur()"
    @keydown.escape="giveUp"
  />
</template>

<style scoped>
.name-field {
  width: 100%;
  min-height: 28px;
  padding: 2px 6px;
  margin-left: -6px;
  border-radius: 6px;
  font-size: 18px;
  color: var(--ink);
  text-overflow: ellipsis;
  field-sizing: content;
  max-width: 100%;
}
.name-field:hover {
  background: color-mix(in srgb, var(--rule) 45%, transparent);
}
.name-field:focus {
  background: var(--card);
  outline: 2px solid var(--act);
}
</style>

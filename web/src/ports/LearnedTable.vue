<script setup lang="ts">
/** What is bound to what, controller by controller; learned, forgotten, exported and imported. */
import { ref } from 'vue'

import type { ControllerTable } from '@/api/ports'
import { thingSaid, useLearning } from '@/hands/learning'
import { saveFile } from '@/page/saveFile'
import { useNotices } from '@/page/notices'

const learning = useLearning()
const notices = useNotices()
void learning.read()

const chooser = ref<HTMLInputElement>()
function exportAll() {
  const text = JSON.stringify(learning.tables, null, 1)
  saveFile(new Blob([text], { type: 'application/json' }), 'controllers.json')
}
/** Tables take the place of those of the same controllers; the others stay. */
async function importFile() {
  const file = chooser.value?.files?.[0]
  if (chooser.value) chooser.value.value = ''
  if (!file) return
  try {
    const read: unknown = JSON.parse(await file.text())
    if (!Array.isArray(read)) throw new Error('it holds no list of controllers')
    const tables = read as ControllerTable[]
    const names = new Set(tables.map((one) => one?.name))
    const isKept = await learning.keep([...learning.tables.filter(({ name }) => !names.has(name)), ...tables])
    if (isKept)
      notices.say(
        `Imported what ${tables.length === 1 ? 'one controller moves' : `${tables.length} controllers move`}.`,
      )
  } catch (reason) {
    const reasonText = reason instanceof SyntaxError ? 'it is no JSON' : (reason as Error).message
    notices.complain(`${file.name}: ${reasonText}. Nothing is changed.`)
  }
}
</script>

<template>
  <section class="learned" aria-label="What controllers move">
    <header>
      <h2>What controllers move</h2>
      <button
        v-tip="'Press this, press a control on any screen, then move the thing on your controller'"
        type="button"
        class="word-button strong"
        :aria-pressed="learning.isOn"
        @click="learning.begin()"
      >
        {{ learning.isOn ? 'learning: press a control' : 'Learn' }}
      </button>
      <span class="gap" />
      <button type="button" class="word-button" :disabled="!learning.count" @click="exportAll">Export</button>
      <button type="button" class="word-button" @click="chooser?.click()">Import</button>
      <input
        ref="chooser"
        type="file"
        accept=".json,application/json"
        hidden
        aria-label="Tables of controllers"
        @change="importFile"
      />
    </header>
    <table v-if="learning.count">
      <template v-for="table in learning.tables" :key="table.name">
        <tbody>
          <tr v-for="(binding, at) in table.bindings" :key="at">
            <td>{{ at === 0 ? table.name : '' }}</td>
            <td>{{ thingSaid(binding) }}</td>
            <td class="moved">{{ learning.targetSaid(binding.target) }}</td>
            <td>
              <button
                type="button"
                class="quiet-button"
                :aria-label="`Forget what ${thingSaid(binding)} of ${table.name} moves`"
                @click="learning.unbind(table.name, binding)"
              >
                forget
              </button>
            </td>
          </tr>
        </tbody>
      </template>
    </table>
    <p v-else>
      Nothing yet. Press <b>Learn</b>, then any control (a pad or big control on Perform, a number in a
      sentence), then move a knob or strike a pad. A knob that stands elsewhere waits until it passes the
      value.
    </p>
  </section>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 8px;
}
h2 {
  font-size: 19px;
}
.gap {
  flex: 1;
}
.strong[aria-pressed='true'] {
  background: var(--act-text);
  border-color: var(--act-text);
}
table {
  width: 100%;
  margin-top: 6px;
  border-collapse: collapse;
}
td {
  padding: 1px 10px 1px 0;
  border-top: 1px solid var(--rule);
  white-space: nowrap;
}
.moved {
  width: 100%;
  font-weight: 600;
}
p {
  margin-top: 6px;
  color: var(--soft-ink);
}
</style>

<script setup lang="ts">
/** The piece was saved elsewhere since it was opened here: nothing is written over without a word. */
import { ref } from 'vue'
import { useRouter } from 'vue-router'

import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

const piece = usePiece()
const notices = useNotices()
const router = useRouter()
const isBusy = ref(false)

async function doing(act: () => Promise<unknown>) {
  isBusy.value = true
  try {
    await act()
  } catch (reason) {
    notices.complain(reason)
  } finally {
    isBusy.value = false
  }
}
const showTheirs = () => doing(() => piece.showTheirs())
const keepMine = () =>
  doing(async () => {
    const id = await piece.keepMineAsCopy()
    if (id !== null) await router.replace(`/lattice/${id}`)
  })
</script>

<template>
  <v-dialog :model-value="true" aria-label="Changed elsewhere" persistent width="520">
    <section class="card conflict" role="alertdialog" aria-label="Changed elsewhere">
      <h2>“{{ piece.document?.name }}” was changed elsewhere</h2>
      <p>
        Another window has saved a newer revision. Nothing of either is lost yet: what you have here is still
        here.
      </p>
      <div>
        <button type="button" class="word-button" :disabled="isBusy" @click="showTheirs">Show theirs</button>
        <button type="button" class="word-button strong" :disabled="isBusy" @click="keepMine">
          Keep mine as a copy
        </button>
      </div>
    </section>
  </v-dialog>
</template>

<style scoped>
.conflict {
  padding: 24px 28px;
  display: grid;
  gap: 16px;
}
.conflict div {
  display: flex;
  gap: 10px;
  justify-content: flex-end;
}
</style>

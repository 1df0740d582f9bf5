<script setup lang="ts">
/** A file of the server's: fetched by the page, so that it can be given up, and a refusal is read. */
import { fileAt } from '@/api/client'
import { useLongWork } from './longWork'
import { saveFile } from './saveFile'

const { href, name } = defineProps<{ href: string; name: string }>()
const work = useLongWork()
const save = () =>
  work.during(`“${name}” is being written …`, async (signal) => saveFile(await fileAt(href, signal), name))
</script>

<template>
  <a :href="href" :download="name" @click.prevent="save"><slot /></a>
</template>

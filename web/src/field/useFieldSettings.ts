/** Where one looks in a field, and how: it stays from visit to visit. */
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref } from 'vue'

import type { At } from '@/around/useDetours'
import type { FieldLimits, GroundId } from '@/engine/around'

type Ways = NonNullable<FieldLimits['ways']>
export const COUNTS = [96, 300, 1000] as const
export const WHEN: readonly (readonly [At, string])[] = [
  ['beat', 'beat'],
  ['half bar', 'half bar'],
  ['bar', 'bar'],
]

export const useFieldSettings = defineStore('field', () => {
  const face = useLocalStorage<'field' | 'ground'>('jolly-lattice-face', 'field')
  const ground = useLocalStorage<GroundId>('jolly-lattice-ground', 'quayside')
  const axes = useLocalStorage<'beat' | 'shape'>('jolly-lattice-axes', 'beat')
  const at = useLocalStorage<At>('jolly-lattice-field-at', 'beat')
  const count = useLocalStorage<number>('jolly-lattice-field-count', COUNTS[0])
  const distance = ref(30)
  /** null: all there are. */
  const ways = ref<Ways | null>(null)
  const throwNumber = ref(1)
  /** Hits a bar; null: no limit. */
  const least = ref<number | null>(null)
  const most = ref<number | null>(null)
  return { face, ground, axes, at, count, distance, ways, throwNumber, least, most }
})

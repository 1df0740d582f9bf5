import { useElementSize, type MaybeComputedElementRef } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'

import type { Schemas } from '@/api/client'

type Key = Pick<Schemas['Key'], 'is_black'>

/** Pixels that a white key is wide at least, so that a finger finds it between two black ones; and between two keys. */
const [LEAST, BETWEEN] = [36, 3]
/** Keys that are shown however little room there is. */
const FEWEST = 12

/** The first of `keys` that fit into `pixels` side by side: black ones lie over the two white ones beside them. */
export function keysThatFit<One extends Key>(keys: readonly One[], pixels: number): readonly One[] {
  let room = Math.floor((pixels + BETWEEN) / (LEAST + BETWEEN))
  const beyond = keys.findIndex((key) => !key.is_black && room-- <= 0)
  const fitting = beyond < 0 ? keys : keys.slice(0, beyond)
  const whole = fitting.at(-1)?.is_black ? fitting.slice(0, -1) : fitting
  return whole.length < FEWEST ? keys.slice(0, FEWEST) : whole
}
export function useKeysThatFit<One extends Key>(
  board: MaybeComputedElementRef,
  keys: () => readonly One[],
): ComputedRef<readonly One[]> {
  const { width } = useElementSize(board)
  return computed(() => (width.value ? keysThatFit(keys(), width.value) : keys()))
}

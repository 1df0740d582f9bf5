/** Of several things alike only the one that is chosen is a stop of the Tab key: the others are reached by choosing them. */
import { computed, inject, provide, type ComputedRef, type InjectionKey } from 'vue'

const KEY: InjectionKey<ComputedRef<0 | -1>> = Symbol('tab stop')
const ALWAYS = computed(() => 0 as const)

export function provideTabStop(isStop: () => boolean): ComputedRef<0 | -1> {
  const stop = computed(() => (isStop() ? 0 : -1))
  provide(KEY, stop)
  return stop
}
/** The tabindex of what belongs to it. */
export const useTabStop = (): ComputedRef<0 | -1> => inject(KEY, ALWAYS)

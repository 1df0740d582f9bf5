import { useLocalStorage } from '@vueuse/core'

/** How far a throw moves: the share of a lane's hits, in percent. */
export const throwPercent = useLocalStorage('jolly-lattice-throw-percent', 30)

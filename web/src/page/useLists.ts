/** Lists of the server's: fetched, kept, tried again and paged by one library, under the policy that all questions have. */
import { keepPreviousData, useInfiniteQuery, useQuery, type VueQueryPluginOptions } from '@tanstack/vue-query'
import { computed, toValue, watch, type MaybeRefOrGetter, type Ref } from 'vue'

import { isTransient, pauseAfter } from '@/api/policy'
import { useNotices } from './notices'

type Key = MaybeRefOrGetter<readonly unknown[]>

/** What is the musician's is read anew by each screen: nobody sees a list of somebody who was here before. */
export const listPolicy: VueQueryPluginOptions = {
  queryClientConfig: {
    defaultOptions: {
      queries: {
        networkMode: 'always',
        refetchOnWindowFocus: false,
        gcTime: 0,
        retry: (_failures, reason) => isTransient(reason),
        retryDelay: (failures, reason) => pauseAfter(reason, failures + 1),
      },
    },
  },
}

/** Say that something could not be fetched, once for each time it goes on failing. */
function complainOf(failures: Ref<number>, reason: Ref<Error | null>, again: () => unknown) {
  const notices = useNotices()
  watch(failures, (count, before) => {
    if (count && !before) notices.complain(reason.value, { label: 'Try again', act: again })
  })
}

/** A list that is read when it is first wanted, as a screen or a panel opens, and anew by `again`. */
export function useList<Line>(
  key: Key,
  fetch: () => Promise<Line[]>,
  isWanted: MaybeRefOrGetter<boolean> = true,
) {
  const enabled = computed(() => toValue(isWanted))
  const query = useQuery({ queryKey: computed(() => toValue(key)), queryFn: fetch, enabled })
  const again = async () => void (await query.refetch())
  complainOf(query.failureCount, query.failureReason, again)
  return { lines: computed<readonly Line[]>(() => query.data.value ?? []), isLoaded: query.isFetched, again }
}

/** A list that comes in pages. `fetch`: the page that begins after so many lines; `total`: how many there are in all. */
export function usePages<Line, Page extends { total: number }>(
  key: Key,
  fetch: (first: number) => Promise<Page>,
  linesOf: (page: Page) => readonly Line[],
) {
  const query = useInfiniteQuery({
    queryKey: computed(() => toValue(key)),
    queryFn: ({ pageParam }) => fetch(pageParam),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const count = pages.flatMap(linesOf).length
      return count < last.total ? count : undefined
    },
    placeholderData: keepPreviousData,
  })
  const again = async () => void (await query.refetch())
  complainOf(query.failureCount, query.failureReason, again)
  return {
    page: computed(() => query.data.value?.pages.at(-1) ?? null),
    lines: computed<readonly Line[]>(() => query.data.value?.pages.flatMap(linesOf) ?? []),
    more: () => query.fetchNextPage(),
    again,
  }
}

/** What the engine offers and never changes: asked for once, when it is first wanted. */
export function useOffer<Data>(
  key: Key,
  fetch: () => Promise<Data>,
  isWanted: MaybeRefOrGetter<boolean> = true,
) {
  const query = useQuery({
    queryKey: computed(() => toValue(key)),
    queryFn: fetch,
    enabled: computed(() => toValue(isWanted)),
    staleTime: Infinity,
    gcTime: Infinity,
  })
  complainOf(query.failureCount, query.failureReason, () => query.refetch())
  return query.data
}

/** The clip that is worked on: one edit after the other, each asked of the engine and stored at once. */
import { computed, ref, shallowRef } from 'vue'

import { clipsApi, isUnreachable, type Action } from '@/api/clips'
import { ApiError, type OpenClip } from '@/api/client'
import { useNotices } from '@/stores/notices'
import { countOf } from './layout'

export function useClip(id: () => number) {
  const notices = useNotices()
  const clip = shallowRef<OpenClip | null>(null)
  /** The state at opening, to compare with. */
  const opened = shallowRef<OpenClip | null>(null)
  /** For each track the places of its chosen notes. */
  const chosen = shallowRef<number[][]>([])
  const isGone = ref(false)
  const chosenCount = computed(() => countOf(chosen.value))

  async function load() {
    try {
      clip.value = opened.value = await clipsApi.open(id())
    } catch (reason) {
      isGone.value = !isUnreachable(reason)
      notices.complain(reason, { label: 'Try again', act: load })
    }
  }

  // One change after the other: each is based on the revision before it.
  let going: Promise<unknown> = Promise.resolve()
  function inTurn(change: (now: OpenClip) => Promise<void>) {
    going = going.then(async () => {
      if (!clip.value) return
      try {
        await change(clip.value)
      } catch (reason) {
        if (isUnreachable(reason))
          notices.complain('Not stored: the server cannot be reached. The clip is as it was.', {
            label: 'Try again',
            act: () => inTurn(change),
          })
        else {
          notices.complain(reason)
          if (reason instanceof ApiError && reason.status === 409) await load()
        }
      }
    })
    return going
  }

  /** Do something to the chosen notes; with none chosen, to all. */
  const act = (action: Action) =>
    inTurn(async ({ revision }) => {
      const done = await clipsApi.edit(id(), revision, action, chosen.value)
      clip.value = done.clip
      chosen.value = done.chosen
    })
  const replaced = (change: (now: OpenClip) => Promise<OpenClip> | null) =>
    inTurn(async (now) => {
      const changed = await change(now)
      if (!changed) return
      clip.value = changed
      chosen.value = []
    })

  return {
    clip,
    opened,
    chosen,
    chosenCount,
    isGone,
    load,
    act,
    // Whether there is something to go to is seen when its turn comes.
    undo: () => replaced((now) => (now.undo ? clipsApi.undo(id(), now.revision) : null)),
    redo: () => replaced((now) => (now.redo ? clipsApi.redo(id(), now.revision) : null)),
    join: (other: number) => replaced(({ revision }) => clipsApi.join(id(), revision, other)),
    rename: (name: string) =>
      inTurn(async (now) => {
        await clipsApi.describe(id(), { name })
        clip.value = { ...now, document: { ...now.document, name } }
      }),
  }
}

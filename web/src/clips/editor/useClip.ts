/** The clip that is worked on: one edit after the other, each asked of the engine and stored at once. */
import { computed, onScopeDispose, ref, shallowRef } from 'vue'

import { clipsApi, type Action } from '@/api/clips'
import { ApiError, type OpenClip } from '@/api/client'
import { isWaiting } from '@/api/policy'
import { useNotices } from '@/page/notices'
import { clipKey, useOutbox } from '@/work/outbox'
import { useSession } from '@/work/session'
import { countOf } from './layout'

export function useClip(id: () => number) {
  const notices = useNotices()
  const outbox = useOutbox()
  const session = useSession()
  const clip = shallowRef<OpenClip | null>(null)
  /** The state at opening, to compare with. */
  const opened = shallowRef<OpenClip | null>(null)
  /** For each track the places of its chosen notes. */
  const chosen = shallowRef<number[][]>([])
  const isGone = ref(false)
  const chosenCount = computed(() => countOf(chosen.value))
  let turns = 0
  onScopeDispose(() => turns++)

  /** Show what comes of edits that an earlier page left waiting. */
  const lookAfterWaiting = () =>
    outbox.follow(clipKey(id()), {
      sent: (sent) => {
        if (sent.kind === 'edit' && clip.value) clip.value = sent.clip
      },
    })
  let leaveWaiting = () => {}
  onScopeDispose(() => leaveWaiting())

  async function load() {
    const turn = ++turns
    leaveEdit()
    going = Promise.resolve()
    leaveWaiting()
    leaveWaiting = lookAfterWaiting()
    try {
      const found = await clipsApi.open(id())
      if (turn === turns) clip.value = opened.value = found
    } catch (reason) {
      if (turn !== turns) return
      isGone.value = !isWaiting(reason)
      notices.complain(reason, { label: 'Try again', act: load })
    }
  }

  // One change after the other: each is based on the revision before it.
  let going: Promise<unknown> = Promise.resolve()
  function inTurn(change: (now: OpenClip, isCurrent: () => boolean) => Promise<void>) {
    going = going.then(async () => {
      const turn = turns
      if (!clip.value) return
      try {
        await change(clip.value, () => turn === turns)
      } catch (reason) {
        if (turn !== turns) return
        if (isWaiting(reason))
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

  /**
   * Do something to the chosen notes; with none chosen, to all. It goes through the outbox: where the server cannot be
   * reached it waits there, also when the page is left, and is done when the server is back.
   */
  const act = (action: Action) =>
    inTurn(async ({ revision }, isCurrent) => {
      const entry = {
        kind: 'edit', key: `edit ${id()} ${revision}`, id: id(), revision, action, chosen: chosen.value,
        user: session.user ?? '', at: Date.now(),
      } as const // prettier-ignore
      const { sent, leave } = outbox.deliver(entry, () =>
        notices.complain('Not stored yet: the edit waits for the server, and is done when it is back.', {
          label: 'Try now',
          act: () => outbox.send(),
        }),
      )
      leaveEdit = leave
      const done = await sent
      if (done.kind !== 'edit' || !isCurrent()) return
      clip.value = done.clip
      chosen.value = done.chosen
    })
  let leaveEdit = () => {}
  onScopeDispose(() => leaveEdit())

  const replaced = (change: (now: OpenClip) => Promise<OpenClip> | null) =>
    inTurn(async (now, isCurrent) => {
      const changed = await change(now)
      if (!changed || !isCurrent()) return
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
      inTurn(async (now, isCurrent) => {
        await clipsApi.describe(id(), { name })
        if (isCurrent()) clip.value = { ...now, document: { ...now.document, name } }
      }),
  }
}

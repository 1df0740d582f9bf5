/** The clip that is worked on: one edit after the other, each asked of the engine and stored at once. */
import { computed, effectScope, onScopeDispose, ref, shallowRef } from 'vue'

import { clipsApi, type Action } from '@/api/clips'
import { ApiError, type OpenClip, type Schemas } from '@/api/client'
import { isWaiting } from '@/api/policy'
import { useInTurn, useNewest } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { useOutbox } from '@/work/outbox'
import { clipKey } from '@/work/waiting'
import { useSession } from '@/work/session'
import { aboutHowMany, carried, carriedMeaning, type Became, type Chosen, type Meant } from './carried'
import { countOf } from './layout'

export function useClip(id: () => number) {
  const notices = useNotices()
  const outbox = useOutbox()
  const session = useSession()
  const clip = shallowRef<OpenClip | null>(null)
  /** The state at opening, to compare with. */
  const opened = shallowRef<OpenClip | null>(null)
  /** For each track the places of its chosen notes. */
  const chosen = shallowRef<Chosen>([])
  const isGone = ref(false)
  const chosenCount = computed(() => countOf(chosen.value))
  const opening = useNewest()
  let changes = effectScope()

  /** What each clip that was on show became: what hands did to it meanwhile is done to that. */
  const became = new WeakMap<Schemas['Clip'], Became>()
  function show(fresh: OpenClip, by?: Omit<Became, 'after'>) {
    const before = clip.value?.document
    if (before && by) {
      became.set(before, { ...by, after: fresh.document })
      chosen.value = carried(chosen.value, before, { ...by, after: fresh.document })
    } else chosen.value = []
    clip.value = fresh
  }
  /** What was meant as it is to be done to the clip now; null where nobody can say which notes it was about. */
  function nowMeant(meant: Meant): Meant | null {
    if (meant.clip === clip.value?.document) return meant
    const next = became.get(meant.clip)
    return next ? nowMeant(carriedMeaning(meant, next)) : null
  }

  /** Show what comes of edits that an earlier page left waiting. */
  const lookAfterWaiting = () =>
    outbox.follow(clipKey(id()), {
      sent: (sent) => {
        if (sent.kind === 'edit' && clip.value) show(sent.clip)
      },
    })
  let leaveWaiting = () => {}
  onScopeDispose(() => leaveWaiting())

  async function load() {
    leaveEdit()
    beginAnew()
    leaveWaiting()
    leaveWaiting = lookAfterWaiting()
    try {
      const openClip = await opening.ask(() => clipsApi.open(id()))
      if (!openClip) return
      show(openClip)
      opened.value = openClip
    } catch (reason) {
      isGone.value = !isWaiting(reason)
      notices.complain(reason, { label: 'Try again', act: load })
    }
  }

  // One change after the other: each is based on the revision before it.
  let turns = changes.run(useInTurn) as ReturnType<typeof useInTurn>
  /** What waits for its turn is about a clip that is no longer seen. */
  function beginAnew() {
    changes.stop()
    changes = effectScope()
    turns = changes.run(useInTurn) as ReturnType<typeof useInTurn>
  }
  onScopeDispose(() => changes.stop())
  function inTurn(change: (now: OpenClip, isCurrent: () => boolean) => Promise<void>) {
    return turns.run(async () => {
      const scope = changes
      const isCurrent = () => scope.active
      if (!clip.value) return
      try {
        await change(clip.value, isCurrent)
      } catch (reason) {
        if (!isCurrent()) return
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
  }

  /**
   * Do something to the chosen notes; with none chosen, to all. It goes through the outbox: where the server cannot be
   * reached it waits there, also when the page is left, and is done when the server is back. It is about the notes that
   * are chosen now, of the clip that is seen now (`on`), whatever becomes of it before its turn.
   */
  function act(action: Action, on = clip.value?.document) {
    if (on) return doInTurn({ clip: on, chosen: chosen.value, action })
  }
  const doInTurn = (pressed: Meant) =>
    inTurn(async ({ revision }, isCurrent) => {
      const meant = nowMeant(pressed) ?? (aboutHowMany(pressed) ? null : pressed)
      if (!meant)
        throw new Error('The clip has changed meanwhile: choose the notes again, then do it once more.')
      // The notes that it was about are gone: nothing is to be done to all the others.
      if (aboutHowMany(pressed) && !aboutHowMany(meant)) return
      const entry = {
        kind: 'edit', key: `edit ${id()} ${revision}`, id: id(), revision, action: meant.action,
        chosen: meant.chosen.map((places) => [...places]), user: session.user ?? '', at: Date.now(),
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
      show(done.clip, { sent: meant.chosen, now: done.chosen, cameFrom: done.came_from })
      tellLost(meant.action, done.lost)
    })
  let leaveEdit = () => {}
  onScopeDispose(() => leaveEdit())
  /** Notes that are gone though nobody said so. */
  function tellLost({ kind }: Action, lost: number) {
    if (!lost || kind === 'delete') return
    const isCrop = kind === 'crop'
    const message =
      lost === 1
        ? `One note ${isCrop ? 'lay outside and is gone' : 'met another of the same pitch and was merged with it'}.`
        : `${lost} notes ${isCrop ? 'lay outside and are gone' : 'met others of the same pitch and were merged with them'}.`
    notices.say(message)
  }

  const replaced = (change: (now: OpenClip) => Promise<OpenClip> | null) =>
    inTurn(async (now, isCurrent) => {
      const changed = await change(now)
      if (!changed || !isCurrent()) return
      show(changed)
    })

  // Whether there is something to go to is seen when its turn comes.
  const undo = () => replaced((now) => (now.undo ? clipsApi.undo(id(), now.revision) : null))
  return {
    clip,
    opened,
    chosen,
    chosenCount,
    isGone,
    load,
    act,
    undo,
    redo: () => replaced((now) => (now.redo ? clipsApi.redo(id(), now.revision) : null)),
    join: (other: number) => replaced(({ revision }) => clipsApi.join(id(), revision, other)),
    rename: (name: string) =>
      inTurn(async (now, isCurrent) => {
        await clipsApi.describe(id(), { name })
        const { document } = now
        if (isCurrent())
          show(
            { ...now, document: { ...document, name } },
            { sent: chosen.value, now: chosen.value, cameFrom: null },
          )
      }),
  }
}

/** Playing into a lane: one step after the other, or along with the loop. */
import { nextTick, ref, watch } from 'vue'

import type { Lane, Schemas, Score } from '@/api/client'
import { melody } from '@/engine/melody'
import { newGesture } from '@/page/gesture'
import { useInTurn } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { laidOn } from '@/work/merging'
import { usePiece } from '@/work/piece'
import { usePlaying } from '@/playing/playing'
import type { Stamped } from './midiKeyboard'

type HeldKey = Schemas['HeldKey']

/** What keys do beside sounding. */
export type Into = 'nothing' | 'steps' | 'loop'

/** What is being played along on a lane: `keys`, on the lane as it was in `score`. */
interface Recording {
  readonly laneId: string
  score: Score
  readonly gesture: string
  keys: HeldKey[]
  /** Whether they may take the place of what the lane has: once keys were laid on it, newer ones go beside them. */
  mayReplace: boolean
  /** The lane as the last answer left it, and with how many of the keys. */
  laid: { readonly lane: Lane; readonly keys: number } | null
  /** How many keys were played in all, and how many of those found no room so far. */
  played: number
  leftOut: number
}

export function useRecording(
  lane: () => Lane,
  /** The lane that a key is played into along with the loop. */
  laneOf: (key: number) => Promise<Lane>,
  cursor: { get(): number; set(step: number): void },
  steps: (laneId: string) => Promise<number>,
) {
  const piece = usePiece()
  const playing = usePlaying()
  const notices = useNotices()
  const into = ref<Into>('nothing')
  /** Whether what is played along takes the place of what the lane had; whether nudges are kept. */
  const isOver = ref(false)
  const keepsNudges = ref(false)
  /** What is being played along, lane by lane. */
  const recordings = new Map<string, Recording>()
  const down = new Map<number, { start: number; velocity: number }>()

  function choose(what: Into) {
    into.value = into.value === what ? 'nothing' : what
    recordings.clear()
    down.clear()
    if (into.value === 'steps') beginAgain()
  }

  /** Where entering stood at each moment of the history: undo takes the place back with what was entered there. */
  const places = new Map<number, number>()
  function beginAgain() {
    places.clear()
    cursor.set(0)
  }
  watch(
    () => piece.history.standsAt,
    (standsAt) => {
      const place = places.get(standsAt)
      if (into.value === 'steps' && place !== undefined && !isEntering) cursor.set(place)
    },
  )

  // One after the other: the next step is entered on what the one before has made.
  const entries = useInTurn()
  let isEntering = false
  /** Enter a note, a rest or a tie on the step under the cursor and go on to the next. */
  function enter(what: 'note' | 'rest' | 'tie', pitch: number | null = null, velocity: number | null = null) {
    return entries.run(async () => {
      const { id, name } = lane()
      const step = cursor.get()
      isEntering = true
      try {
        places.set(piece.history.standsAt, step)
        const label = what === 'note' ? `note on step ${step + 1}` : `${what} on step ${step + 1}`
        await piece.editLanesAsAnswered(
          `${name}: ${label}`,
          async () => new Map(Object.entries(await melody.enter({ lane: id, what, step, pitch, velocity }))),
        )
        const next = (step + 1) % (await steps(id))
        places.set(piece.history.standsAt, next)
        cursor.set(next)
        await nextTick() // what is entered next reads it
      } catch (reason) {
        notices.complain(reason)
      } finally {
        isEntering = false
      }
    })
  }

  function struck(key: number, velocity: number, event: Stamped) {
    if (into.value === 'steps') void enter('note', key, velocity)
    if (into.value === 'loop' && playing.isPlaying)
      down.set(key, { start: Math.round(playing.tickOf(event)), velocity })
  }

  async function released(key: number, event: Stamped) {
    const began = down.get(key)
    if (!began || !piece.score) return
    down.delete(key)
    const end = Math.max(began.start + 1, Math.round(playing.tickOf(event)))
    const { id } = await laneOf(key)
    const recording = recordings.get(id) ?? {
      laneId: id, score: piece.score, gesture: newGesture('record'), keys: [], mayReplace: true, laid: null, played: 0, leftOut: 0,
    } // prettier-ignore
    recordings.set(id, recording)
    recording.keys.push({ ...began, end, key })
    recording.played++
    void lay(recording)
  }

  /** Lay all that was played since recording began on the lane as it was then; what a hand changed meanwhile stays. */
  async function lay(what: Recording) {
    const { laneId, score, gesture, keys } = what
    const asked = keys.length
    try {
      const { patches, left_out } = await melody.record(score, {
        lane: laneId,
        keys: [...keys],
        over: what.mayReplace && isOver.value,
        nudges: keepsNudges.value,
      })
      const [was, now] = [score, piece].map(({ lanes }) => lanes.find(({ id }) => id === laneId))
      if (recordings.get(laneId) !== what || what.keys !== keys || keys.length !== asked || !was || !now)
        return
      const lane: Lane = { ...was, ...patches[laneId] }
      const merged = laidOn(what.laid?.lane ?? was, lane, now)
      if (!merged) return await layAnew(what)
      const label = `${now.name}: ${what.played} ${what.played === 1 ? 'note' : 'notes'} played in`
      piece.editLane(laneId, label, () => merged, gesture)
      what.laid = { lane, keys: asked }
      if (left_out > what.leftOut)
        notices.say(
          `${now.name}: ${left_out} of ${what.played} notes found no free step. A shorter step value has room for them.`,
        )
      what.leftOut = left_out
    } catch (reason) {
      choose('nothing')
      notices.complain(reason)
    }
  }
  /** A hand has changed the same as the keys: what is not on the lane yet goes on it as it is now. */
  function layAnew(what: Recording): Promise<void> {
    if (!piece.score) return Promise.resolve()
    if (what.laid) what.mayReplace = false
    what.keys = what.keys.slice(what.laid?.keys ?? 0)
    what.laid = null
    what.score = piece.score
    return lay(what)
  }

  return { into, isOver, keepsNudges, choose, enter, struck, released }
}

/** Playing into a lane: one step after the other, or along with the loop. */
import { nextTick, ref, watch } from 'vue'

import type { Lane, Schemas, Score } from '@/api/client'
import { melody } from '@/engine/melody'
import { newGesture } from '@/page/gesture'
import { useInTurn } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'
import { usePlaying } from '@/playing/playing'
import type { Stamped } from './midiKeyboard'

type HeldKey = Schemas['HeldKey']
type Patches = Awaited<ReturnType<typeof melody.enter>>

/** What keys do beside sounding. */
export type Into = 'nothing' | 'steps' | 'loop'

interface Recording {
  readonly laneId: string
  readonly score: Score
  readonly gesture: string
  readonly keys: HeldKey[]
  /** How many of them found no room so far. */
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

  const take = (patches: Patches, label: string, gesture: string | null = null) => {
    for (const [id, patch] of Object.entries(patches))
      piece.editLane(id, label, (old) => ({ ...old, ...patch }), gesture)
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
        const said = what === 'note' ? `note on step ${step + 1}` : `${what} on step ${step + 1}`
        await piece.editLanesAsAnswered(
          `${name}: ${said}`,
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
      laneId: id, score: piece.score, gesture: newGesture('record'), keys: [], leftOut: 0,
    } // prettier-ignore
    recordings.set(id, recording)
    recording.keys.push({ ...began, end, key })
    void lay(recording)
  }

  /** Lay all that was played since recording began on the lane as it was then. */
  async function lay(what: Recording) {
    const { laneId, score, gesture, keys } = what
    const asked = keys.length
    try {
      const { patches, left_out } = await melody.record(score, {
        lane: laneId,
        keys: [...keys],
        over: isOver.value,
        nudges: keepsNudges.value,
      })
      const name = piece.lanes.find(({ id }) => id === laneId)?.name ?? ''
      if (recordings.get(laneId) !== what || keys.length !== asked) return
      take(patches, `${name}: ${asked} ${asked === 1 ? 'note' : 'notes'} played in`, gesture)
      if (left_out > what.leftOut)
        notices.say(
          `${name}: ${left_out} of ${asked} notes found no free step. A shorter step value has room for them.`,
        )
      what.leftOut = left_out
    } catch (reason) {
      choose('nothing')
      notices.complain(reason)
    }
  }

  return { into, isOver, keepsNudges, choose, enter, struck, released }
}

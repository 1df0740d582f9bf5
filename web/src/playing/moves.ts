/** Controls moved by hand while it plays: written down where that is wanted, tick by tick as they counted. */
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'

import { isSame } from '@/api/same'
import type { HeldDetour, Lane, Movement, Pattern, Piece } from '@/api/client'
import { engine } from '@/engine/engine'
import { useNotices } from '@/page/notices'
import { postponed } from '@/sound/time'
import { withLane, withPattern } from '@/work/document'
import {
  changesOf, LANE_CONTROLS, PATTERN_CONTROLS, raised, withMovement, withMovements, type Change, type Control,
} from '@/work/movements' // prettier-ignore
import { later } from '@/work/live'
import { usePiece } from '@/work/piece'
import { usePlaying } from './playing'

type Point = Movement['points'][number]

export const useMoves = defineStore('moves', () => {
  const piece = usePiece()
  const playing = usePlaying()
  const notices = useNotices()
  const isOn = ref(false)
  /** Lanes that were moved since recording began. */
  const moved = new Set<string>()
  /** The ticks of the points that this recording has written, by movement: what was recorded before stays where it is. */
  const recorded = new Map<string, Set<number>>()
  /** What one movement of the hand has written so far: the document is as it was before that each time. */
  let session: { gesture: string | null; from: number; points: Map<string, Point[]> } | null = null

  const isRecording = () => isOn.value && playing.isPlaying && playing.player?.patternId === piece.pattern?.id

  /** The tick from which a change counts that is made now. */
  function tickNow(gesture: string | null): number {
    const tick = playing.keyTick({ timeStamp: performance.now() })
    if (!session || gesture === null || session.gesture !== gesture)
      session = { gesture, from: tick, points: new Map() }
    return tick
  }
  /** The movement of a control after a change at `tick`. It begins with what held until then. */
  function written(
    key: string,
    movement: Movement | undefined,
    { control, was, now }: Change,
    tick: number,
  ): Movement {
    const mine = [...(session?.points.get(key) ?? []).filter(([at]) => at !== tick), [tick, now] as Point]
    session?.points.set(key, mine)
    recorded.set(key, new Set([...(recorded.get(key) ?? []), tick]))
    const from = session?.from ?? tick
    // What was recorded over a stretch takes the place of what was there before.
    const others = movement ? movement.points.filter(([at]) => at < from || at > tick) : [[0, was] as Point]
    const points = [...others.filter(([at]) => !mine.some(([ours]) => ours === at)), ...mine]
    return {
      control: control.field,
      loop_bars: movement?.loop_bars ?? null,
      off: false,
      points: points.sort(([one], [other]) => one - other),
    }
  }

  function follow<Of extends Lane | Pattern>(
    key: string,
    before: Of,
    after: Of,
    known: readonly Control[],
    tick: () => number,
    plain: Pattern['step_value'] | null = null,
  ): Of {
    if (before === after) return after
    let movements: Movement[] = after.movements ?? []
    // What changed the movements themselves was no control.
    if (before.movements !== after.movements) return after
    for (const change of changesOf(before, after, known, plain)) {
      const field = change.control.field
      const own = movements.find(({ control }) => control === field)
      if (isRecording())
        movements = withMovement(movements, field, written(`${key} ${field}`, own, change, tick()))
      else if (own && !own.off) movements = withMovement(movements, field, raised(own, change))
    }
    return movements === (after.movements ?? []) ? after : withMovements(after, movements)
  }

  /** What a change of the piece makes of its movements: written down, or moved along with the control. */
  function recordMovement(before: Piece, after: Piece, patternId: string, gesture: string | null): Piece {
    const was = before.patterns.find(({ id }) => id === patternId)
    const now = after.patterns.find(({ id }) => id === patternId)
    if (!was || !now || (was === now && before.swing === after.swing)) return after
    let at: number | null = null
    const tick = () => (at ??= tickNow(gesture))
    const lanes = now.lanes.map((lane) => {
      const old = was.lanes.find(({ id }) => id === lane.id)
      if (!old) return lane
      const followed = follow(lane.id, old, lane, LANE_CONTROLS, tick, was.step_value)
      if (at !== null && followed !== lane) moved.add(lane.id)
      return followed
    })
    const swung = <Of extends Pattern>(of: Of, swing: Piece['swing']) => ({ ...of, swing })
    const { movements } = follow(
      'pattern', swung(was, before.swing), swung(now, after.swing), PATTERN_CONTROLS, tick,
    ) // prettier-ignore
    const isSame = lanes.every((lane, place) => lane === now.lanes[place]) && movements === now.movements
    return isSame ? after : withPattern(after, patternId, () => ({ ...now, movements, lanes }))
  }
  piece.onChange.add(recordMovement)

  /** A detour that was held while moves are recorded comes again. False where they are not. */
  function recordDetour(held: HeldDetour): boolean {
    if (!isRecording()) return false
    detoursNow = [...detoursNow, held]
    piece.editPattern(`${held.detour.kind} recorded`, (pattern) => ({
      ...pattern,
      moved_detours: [...(pattern.moved_detours ?? []), held],
    }))
    return true
  }

  /** Detours that were written down since recording began: the last one may still count later than it did. */
  let detoursNow: readonly HeldDetour[] = []
  playing.onLate((late, tick) => {
    const patternId = piece.pattern?.id
    const before = detoursNow
    const after = before.map((one) => later(one, late, tick))
    if (!patternId || !isRecording() || isSame(after, before)) return
    detoursNow = after
    const inItsPlace = (one: HeldDetour) => after[before.findIndex((old) => isSame(old, one))] ?? one
    piece.amend((document) =>
      withPattern(document, patternId, (pattern) => ({
        ...pattern,
        moved_detours: (pattern.moved_detours ?? []).map(inItsPlace),
      })),
    )
  })

  // An answer that came too late: what counted from `late` on does so from `tick`, on what was written down too.
  playing.onLate((late, tick) => {
    const patternId = piece.pattern?.id
    if (!session || !patternId || !isRecording()) return
    const laterOf = (points: readonly Point[], isMeant: (at: number) => boolean) =>
      points.map(([at, value]): Point => [isMeant(at) ? postponed(at, late, tick) : at, value])
    const inTime = (owner: string) => (movement: Movement) => {
      const own = recorded.get(`${owner} ${movement.control}`)
      return own ? { ...movement, points: laterOf(movement.points, (at) => own.has(at)) } : movement
    }
    piece.amend((document) =>
      withPattern(document, patternId, (pattern) => ({
        ...pattern,
        movements: (pattern.movements ?? []).map(inTime('pattern')),
        lanes: pattern.lanes.map((lane) =>
          moved.has(lane.id) ? { ...lane, movements: (lane.movements ?? []).map(inTime(lane.id)) } : lane,
        ),
      })),
    )
    for (const [key, points] of session.points)
      session.points.set(
        key,
        laterOf(points, () => true),
      )
    for (const [key, ticks] of recorded)
      recorded.set(key, new Set([...ticks].map((at) => postponed(at, late, tick))))
  })

  /** As few points as play the same notes. */
  async function finish() {
    const lanes = [...moved].filter((id) => piece.lanes.some((lane) => lane.id === id))
    moved.clear()
    session = null
    const patternId = piece.pattern?.id
    if (!lanes.length || !patternId) return
    try {
      const fewer = await engine.fewerPoints(lanes)
      const before = new Map(piece.lanes.map((lane) => [lane.id, lane.movements]))
      piece.amend((document) =>
        Object.entries(fewer).reduce(
          (all, [laneId, fields]) =>
            withLane(all, patternId, laneId, (lane) =>
              lane.movements === before.get(laneId) ? { ...lane, ...fields } : lane,
            ),
          document,
        ),
      )
    } catch (reason) {
      notices.complain(reason)
    }
  }
  watch(
    () => isOn.value && playing.isPlaying,
    (records, before) => {
      if (before && !records) void finish()
      if (records) session = null
      if (records) recorded.clear()
      detoursNow = []
    },
  )
  function toggle() {
    isOn.value = !isOn.value
    if (isOn.value && !playing.isPlaying)
      notices.say('Every control that you move while it plays is written down. Press play.')
  }

  return { isOn, toggle, recordDetour, isRecording }
})

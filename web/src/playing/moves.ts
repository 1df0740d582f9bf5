/** Controls moved by hand while it plays: recorded where that is wanted, tick by tick as they counted. */
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'

import { isAway } from '@/api/policy'
import { isSame } from '@/api/same'
import type { HeldDetour, Lane, Movement, Pattern, Piece, Schemas } from '@/api/client'
import { engine } from '@/engine/engine'
import { useInTurn } from '@/page/asking'
import { useNotices } from '@/page/notices'
import { useReach } from '@/page/reach'
import { postponed } from '@/sound/time'
import { withLane, withPattern } from '@/work/document'
import { lastNumber, momentOf } from '@/work/history'
import {
  changesOf, LANE_CONTROLS, PATTERN_CONTROLS, withEachMovements, withMovement, withMovements, withPoint, type Control,
} from '@/work/movements' // prettier-ignore
import { later } from '@/work/live'
import { usePiece } from '@/work/piece'
import { usePlaying } from './playing'

type Point = Movement['points'][number]
/** What a hand has done to a control so far, and how its movement stands in the document until the engine has answered. */
interface Hand {
  readonly patternId: string
  /** The number of the moment that it makes. */
  readonly moment: number
  readonly move: Schemas['HandMove']
  readonly shown: Movement
}

export const useMoves = defineStore('moves', () => {
  const piece = usePiece()
  const playing = usePlaying()
  const notices = useNotices()
  const reach = useReach()
  const isOn = ref(false)
  /** Lanes that were moved since recording began. */
  const movedLanes = new Set<string>()
  /** The ticks of the points that this recording has written, by control: what was recorded before stays where it is. */
  const recorded = new Map<string, Set<number>>()
  /** One movement of the hand: each of its steps begins from the document as it was before all of them. */
  let session: {
    readonly gesture: string | null
    readonly moment: number
    readonly hands: Map<string, Hand>
  } | null = null
  /** Hands that the engine has still to be told of, by control. */
  const untold = new Map<string, Hand>()

  const isRecording = () => isOn.value && playing.isPlaying && playing.player?.patternId === piece.pattern?.id
  const keyOf = (lane: string | null, control: string) => `${lane ?? 'pattern'} ${control}`

  /** `after` with what its changed controls are moved by, as the hand left it: the engine says what becomes of it. */
  function follow<Of extends Lane | Pattern>(
    patternId: string,
    lane: string | null,
    before: Of,
    after: Of,
    known: readonly Control[],
    tick: () => number,
    plain: Pattern['step_value'] | null = null,
  ): Of {
    // What changed the movements themselves was no control.
    if (before === after || before.movements !== after.movements) return after
    let movements: Movement[] = after.movements ?? []
    for (const { control, was, now } of changesOf(before, after, known, plain)) {
      const { field } = control
      const key = keyOf(lane, field)
      const own = movements.find((one) => one.control === field)
      const earlier = session?.hands.get(key)
      let shown = earlier?.shown ?? own
      let points: Point[] = []
      if (isRecording()) {
        points = [...(earlier?.move.points ?? []).filter(([at]) => at !== tick()), [tick(), now]]
        shown ??= { control: field, loop_bars: null, off: false, points: [[0, was]] }
        shown = withPoint({ ...shown, off: false }, tick(), now)
        recorded.set(key, new Set([...(recorded.get(key) ?? []), tick()]))
        if (lane) movedLanes.add(lane)
      } else if (!own || own.off) continue
      if (!shown) continue
      const movement = (earlier ? earlier.move.movement : own) ?? null
      const move = { lane, control: field, was, now, movement, points }
      const hand = { patternId, moment: session?.moment ?? Infinity, move, shown }
      session?.hands.set(key, hand)
      untold.set(key, hand)
      movements = withMovement(movements, field, shown)
    }
    return movements === (after.movements ?? []) ? after : withMovements(after, movements)
  }

  /** What a change of the piece makes of its movements: recorded, or moved along with the control. */
  function recordMovement(before: Piece, after: Piece, patternId: string, gesture: string | null): Piece {
    const was = before.patterns.find(({ id }) => id === patternId)
    const now = after.patterns.find(({ id }) => id === patternId)
    if (!was || !now || (was === now && before.swing === after.swing)) return after
    const goesOn = momentOf(piece.history, gesture)
    if (!session || !goesOn || session.gesture !== gesture)
      session = { gesture, moment: lastNumber(piece.history) + (goesOn ? 0 : 1), hands: new Map() }
    let at: number | null = null
    const tick = () => (at ??= playing.keyTick({ timeStamp: performance.now() }))
    const lanes = now.lanes.map((lane) => {
      const old = was.lanes.find(({ id }) => id === lane.id)
      return old ? follow(patternId, lane.id, old, lane, LANE_CONTROLS, tick, was.step_value) : lane
    })
    const swung = <Of extends Pattern>(of: Of, swing: Piece['swing']) => ({ ...of, swing })
    const { movements } = follow(
      patternId, null, swung(was, before.swing), swung(now, after.swing), PATTERN_CONTROLS, tick,
    ) // prettier-ignore
    if (untold.size) void tellHands()
    const isSame = lanes.every((lane, place) => lane === now.lanes[place]) && movements === now.movements
    return isSame ? after : withPattern(after, patternId, () => ({ ...now, movements, lanes }))
  }
  piece.onChange.add(recordMovement)

  const tellings = useInTurn()
  const tellHands = () => tellings.run(tellNow).catch(notices.complain)
  /** Ask the engine what movements hands have made, and put that in the place of what they left. */
  async function tellNow() {
    const { pattern } = piece
    const hands = [...untold].filter(([, { patternId }]) => patternId === pattern?.id)
    untold.clear()
    if (!hands.length || !pattern) return
    let made: (Movement | null)[]
    try {
      made = await engine.afterHands(hands.map(([, { move }]) => move))
    } catch (reason) {
      if (!isAway(reason)) throw reason
      // What hands left stands until the server is back.
      for (const [key, hand] of hands) if (!untold.has(key)) untold.set(key, hand)
      return
    }
    const change = (lane: string | null) => (movements: Movement[]) =>
      hands.reduce((all, [, { move, shown }], at) => {
        const movement = made[at]
        const isMeant = move.lane === lane && all.some((one) => isSame(one, shown))
        return isMeant && movement ? withMovement(all, move.control, movement) : all
      }, movements)
    const first = Math.min(...hands.map(([, { moment }]) => moment))
    piece.amend((document) => withEachMovements(document, pattern.id, change), first)
    for (const [at, [key, hand]] of hands.entries()) {
      const movement = made[at]
      if (movement && session?.hands.get(key) === hand) session.hands.set(key, { ...hand, shown: movement })
    }
  }

  watch(
    () => reach.isAway,
    (isAway) => !isAway && untold.size && void tellHands(),
  )

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
    const laterOf = (key: string, movement: Movement): Movement => ({
      ...movement,
      points: movement.points.map(([at, value]): Point => [
        recorded.get(key)?.has(at) ? postponed(at, late, tick) : at,
        value,
      ]),
    })
    const change = (lane: string | null) => (movements: Movement[]) =>
      movements.map((movement) => laterOf(keyOf(lane, movement.control), movement))
    piece.amend((document) => withEachMovements(document, patternId, change))
    for (const [key, { moment, move, shown }] of session.hands) {
      const points = (move.points ?? []).map(([at, value]): Point => [postponed(at, late, tick), value])
      const movement = move.movement ? laterOf(key, move.movement) : null
      const hand = { patternId, moment, move: { ...move, movement, points }, shown: laterOf(key, shown) }
      session.hands.set(key, hand)
      untold.set(key, hand)
    }
    for (const [key, ticks] of recorded)
      recorded.set(key, new Set([...ticks].map((at) => postponed(at, late, tick))))
    void tellHands()
  })

  /** As few points as play the same notes. */
  async function finish() {
    const lanes = [...movedLanes].filter((id) => piece.lanes.some((lane) => lane.id === id))
    movedLanes.clear()
    session = null
    const patternId = piece.pattern?.id
    if (!lanes.length || !patternId) return
    await notices.attempt(async () => {
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
    })
  }
  watch(
    () => isOn.value && playing.isPlaying,
    (records, before) => {
      if (before && !records) void tellings.run(finish)
      if (records) session = null
      if (records) recorded.clear()
      detoursNow = []
    },
  )
  function toggle() {
    isOn.value = !isOn.value
    if (isOn.value && !playing.isPlaying)
      notices.say('Every control that you move while the music plays is recorded. Press Play.')
  }

  return { isOn, toggle, recordDetour, isRecording }
})

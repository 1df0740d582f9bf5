/** A window for instruments that measure the running application: what was scheduled, how loud it is, how voices sound. */
import type { Keys, Piece, Schemas, Score } from '@/api/client'
import type { StruckNote } from '@/sound/loop'
import type { Hand, Rehearsed } from '@/sound/rehearsal'
import { usePiece } from '@/work/piece'
import { useConversation } from '@/engine/useConversation'
import { ensureAudio } from '@/playing/audio'
import { useLoops } from '@/playing/loops'
import { useOrder } from '@/playing/order'
import { usePlaying } from '@/playing/playing'
import { usePorts } from '@/playing/ports'
import { useSimulatedController } from '@/playing/simulatedController'
import type { ReceivedMessage } from '@/sound/midi/instrument'
import type { Playing, TapeStretch } from '@/sound/tape'

export interface Measuring {
  /** The schedule log: all that is on the tape, stretch by stretch. */
  log(): Pick<TapeStretch, 'fromTick' | 'nowTick' | 'notes' | 'controls' | 'leftOut' | 'patternId' | 'row'>[]
  /** What a take or clip that goes round has struck, in ticks since it began. */
  struck(): StruckNote[]
  /** The piece that is open. */
  piece(): Piece | null
  /** What the table holds. */
  score(): { score: Score | null; dice: number }
  /** Root mean square of what leaves the speakers now. */
  level(): Promise<number>
  /** The samples of every voice of the kit. */
  voices(): Promise<Record<string, number[]>>
  /** The samples of a note of every voice that plays any pitch. */
  pitched(): Promise<Record<string, number[]>>
  /** A stroke of a voice, of a pitched one two that overlap, with controllers where `moves` put them: 32-bit samples in base 64. */
  stroke(
    voice: Schemas['Voice'],
    tone: Schemas['Tone'] | null,
    moves: readonly (readonly [number, number])[],
  ): Promise<string>
  /** What the simulated instrument was sent. */
  sent(): readonly ReceivedMessage[]
  /** Messages that were handed over, and how many of them late, port by port. */
  handed(): Record<string, { handed: number; late: number; sounding: number }>
  /** What is done with the simulated controller, by script. */
  controller(): ReturnType<typeof useSimulatedController>
  /** Where the music is now, in ticks. */
  now(): number
  /** The tick up to which all that was due is in the schedule log. */
  known(): number
  /** What hands held on the keys while the newest stretch of tape was played. */
  keysThen(laneId: string): Keys | null
  /** Play a score on a stepped clock with the real engine, while hands change it. */
  rehearse(first: Playing, seconds: number, hands: readonly Hand[]): Promise<Rehearsed>
  /** The same of the running order of the open piece, round and round. */
  rehearseOrder(seconds: number): Promise<Rehearsed>
}

declare global {
  interface Window {
    jolly?: Measuring
  }
}

export function exposeForMeasuring() {
  const playing = usePlaying()
  const loops = useLoops()
  const conversation = useConversation()
  const piece = usePiece()
  const ports = usePorts()
  window.jolly = {
    log: () =>
      playing.tape.stretches.map(({ fromTick, nowTick, notes, controls, leftOut, patternId, row }) => ({
        fromTick, nowTick, notes, controls, leftOut, patternId, row,
      })), // prettier-ignore
    piece: () => piece.document,
    struck: () => loops.player?.struck ?? [],
    score: () => ({ score: piece.score, dice: piece.dice }),
    level: async () => (await ensureAudio()).level(),
    voices: async () => {
      const { kit } = await ensureAudio()
      return Object.fromEntries([...kit].map(([id, buffer]) => [id, [...buffer.getChannelData(0)]]))
    },
    pitched: async () => {
      const voices = await (await ensureAudio()).pitched()
      return Object.fromEntries([...voices].map(([id, samples]) => [id, [...samples]]))
    },
    stroke: async (voice, tone, moves) => {
      const samples = await (await ensureAudio()).stroke(voice, tone, moves)
      const bytes = new Uint8Array(samples.buffer)
      let text = ''
      for (let at = 0; at < bytes.length; at += 8192)
        text += String.fromCharCode(...bytes.subarray(at, at + 8192))
      return btoa(text)
    },
    sent: () => ports.instrument?.gather() ?? [],
    handed: () =>
      Object.fromEntries(
        [...ports.outs].map(([name, { port }]) => [
          name,
          { handed: port.handed, late: port.late, sounding: port.sounding },
        ]),
      ),
    controller: () => useSimulatedController(),
    now: () => playing.player?.nowTick ?? 0,
    known: () => playing.player?.committedUpTo ?? 0,
    keysThen: (laneId) =>
      playing.tape.stretches.at(-1)?.score.lanes.find(({ id }) => id === laneId)?.keys ?? null,
    rehearseOrder: async (seconds) => {
      const { rehearse } = await import('@/sound/rehearsal')
      const order = useOrder()
      const rowAt = (place: number) => order.playingOf(order.placed(place % order.rows.length))
      const first = rowAt(0)
      if (!first) throw new Error('The order has no rows.')
      return rehearse(first, seconds, [], conversation, ({ row }) => rowAt((row?.place ?? 0) + 1))
    },
    rehearse: async (first, seconds, hands) => {
      const { rehearse } = await import('@/sound/rehearsal')
      return rehearse(first, seconds, hands, conversation)
    },
  }
}

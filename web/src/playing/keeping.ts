/** Keeping what sounded, or will sound next: as a clip, through the outbox, and as a take. */
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { clipsApi } from '@/api/clips'
import type { ClipLine, KeptLine, Schemas } from '@/api/client'
import { takesApi } from '@/api/takes'
import { useNotices } from '@/page/notices'
import { hasWholeBar, tapeOf, type TapeStretch } from '@/sound/tape'
import { isWithin, startOfBar } from '@/sound/time'
import { randomNumber } from '@/work/document'
import { useOutbox } from '@/work/outbox'
import { usePiece } from '@/work/piece'
import { useSession } from '@/work/session'
import { aheadOf, type Ahead } from './ahead'
import { placeClip } from './clipsInPlace'
import { usePlaying } from './playing'
import { useSounding } from './sounding'

/** Stretches before the last one that are kept with it. */
const MOST_BEFORE = 15

export const useKeeping = defineStore('keeping', () => {
  const playing = usePlaying()
  const piece = usePiece()
  const notices = useNotices()
  const outbox = useOutbox()
  const session = useSession()
  /** How many bars are kept at a time. */
  const bars = ref(4)

  /** Keep the last bars, or a `stretch` of them, as a clip. Null if there was nothing to keep. */
  async function keep(
    count: number,
    of?: { stretches: readonly TapeStretch[]; first: number; end: number },
  ): Promise<ClipLine | null> {
    playing.player?.tick()
    const newest = playing.tape.stretches.at(-1)
    const run = of?.stretches ?? (newest ? runWithBars(newest) : [])
    const stretch = run.at(-1)
    if (!stretch || !piece.document || !piece.pattern) {
      notices.complain('Nothing has sounded yet. Press play: the tape is always running.')
      return null
    }
    const body: Schemas['Keeping'] = {
      keeping: `${Date.now()}-${randomNumber(999_999_999)}`,
      piece: piece.document.name,
      ...heardOf(stretch),
      bars: count,
      stretch: of ? { first_bar: of.first, end_bar: of.end } : null,
      before: run.slice(0, -1).slice(-MOST_BEFORE).map(heardOf),
      with_late: false,
    }
    return keepTape(body, count, stretch)
  }
  /** What played a stretch, and what sounded of it. */
  const heardOf = (stretch: TapeStretch): Schemas['KeptBefore'] => ({
    pattern: piece.patterns.find(({ id }) => id === stretch.patternId)?.name ?? piece.pattern?.name ?? '',
    score: stretch.score,
    dice: stretch.dice,
    row: stretch.row ?? null,
    tape: tapeOf(stretch),
  })
  /** What sounded last without a break; where nothing whole has since a start, what did before that. */
  function runWithBars(newest: TapeStretch): readonly TapeStretch[] {
    const run = playing.tape.runOf(newest)
    if (run.some(hasWholeBar)) return run
    const whole = playing.tape.newestWhole()
    return whole ? playing.tape.runOf(whole) : run
  }

  /** Through the outbox: where the server cannot be reached it waits there, also over a reload, and is sent by itself. */
  function keepTape(body: Schemas['Keeping'], asked: number, stretch: TapeStretch): Promise<ClipLine | null> {
    const key = `keeping ${body.keeping}`
    const entry = {
      kind: 'keeping',
      key,
      user: session.user ?? '',
      at: Date.now(),
      body,
      asked,
    } as const
    return new Promise((resolve) => {
      const { sent } = outbox.deliver(entry, async () => {
        const why = outbox.trouble === 'signed-out' ? 'you are signed out' : 'the server is away'
        const where = (await outbox.isSafe(key))
          ? 'The bars wait in this browser'
          : 'This browser cannot store them: leave this page open. The bars wait here'
        notices.complain(`Not kept yet: ${why}. ${where} and are kept as soon as they can be.`, {
          label: 'Try now',
          act: () => outbox.send(),
        })
        resolve(null)
      })
      sent.then(
        (done) => {
          if (done.kind !== 'keeping') return
          tellKept(done.clip, body, asked, stretch)
          resolve(done.clip)
        },
        (reason) => {
          notices.complain(reason)
          resolve(null)
        },
      )
    })
  }
  /** How often something was kept, on this visit. */
  const times = ref(0)
  function tellKept(kept: KeptLine, body: Schemas['Keeping'], asked: number, stretch: TapeStretch) {
    times.value++
    const { late } = kept
    const keepLate = () =>
      keepTape({ ...body, with_late: true, keeping: `${body.keeping}-late` }, asked, stretch)
    notices.say(
      messageOf(kept, asked, stretch) + messageOfLate(late),
      ...(late ? [{ label: 'Keep them too', act: keepLate }] : []),
      { label: 'Play in place', act: () => placeClip(kept.id, kept.name) },
      { label: 'As a take too', act: () => keepAsTake(body) },
      { label: 'Export .mid', act: () => location.assign(clipsApi.file(kept.id)) },
    )
  }

  const keepAsTake = (body: Schemas['Keeping']) =>
    notices.attempt(async () => {
      const { sheet, differs } = await takesApi.fromTape(body)
      const note = differs ? ' Hands moved while it played: the take is the pattern as it stood last.' : ''
      notices.say(`Kept as a take of ${sheet.piece}, pattern ${sheet.pattern}.${note}`)
    })

  // ---- Recording ahead ----
  const ahead = shallowRef<Ahead | null>(null)

  /** Keep the next `count` bars, with all that is done meanwhile; from a stop, perhaps after a bar of `countIn`. */
  async function recordAhead(count: number, countIn: boolean) {
    if (ahead.value) {
      ahead.value = null
      return
    }
    if (!playing.isPlaying) await playing.play(0, countIn ? 1 : 0)
    const stretch = playing.tape.stretches.at(-1)
    if (playing.isPlaying && stretch) ahead.value = aheadOf(stretch, count)
  }
  /** Keep what was recorded once it is there, or as much as there was when it ended. */
  function followAhead() {
    const recording = ahead.value
    if (!recording) return
    const isOver = !playing.isPlaying || playing.tape.stretches.at(-1) !== recording.stretch
    const { nowTick, barTicks } = recording.stretch
    if (!isOver && nowTick < startOfBar(recording.end, barTicks)) return
    ahead.value = null
    void keep(recording.end - recording.first, { ...recording, stretches: [recording.stretch] })
  }
  useSounding().onTick(followAhead)
  playing.onStop(followAhead)
  watch(
    () => piece.id,
    () => (ahead.value = null),
    { flush: 'sync' },
  )

  return { bars, keep, times, ahead, recordAhead }
})

function messageOfLate(count: number): string {
  if (!count) return ''
  return count === 1
    ? ' One note came too late to be heard and is not in it.'
    : ` ${count} notes came too late to be heard and are not in it.`
}

function messageOf(kept: ClipLine, asked: number, stretch: TapeStretch): string {
  const few = kept.bars < asked ? ` (only ${kept.bars} had sounded whole)` : ''
  const changedAt = stretch.tempoChangedAt
  const first = startOfBar(kept.origin?.first_bar ?? 0, stretch.barTicks)
  const within = changedAt !== null && isWithin(changedAt, first, kept.length_ticks)
  const tempo = within ? ` The tempo changed on the way: the clip has ${kept.tempo}.` : ''
  return `Kept “${kept.name}”${few}.${tempo}`
}

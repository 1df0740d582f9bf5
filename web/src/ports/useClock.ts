/** The music follows a clock from outside: its tempo, its start and stop, where it says the music is. */
import { useIntervalFn } from '@vueuse/core'
import { onScopeDispose, watch } from 'vue'

import { Score } from '@/api/limits.json'
import { useNotices } from '@/page/notices'
import { usePlaying } from '@/playing/playing'
import { useTransport } from '@/playing/transport'
import { useLive } from '@/work/live'
import { usePorts, type Heard } from '@/playing/ports'
import { ticksOfPulse } from '@/sound/time'
import { usePiece } from '@/work/piece'

const LOOKED_MS = 60
/** By how much the tempo has to differ before the score takes it: less is made up by going a little faster or slower. */
const MOVED = 0.04

export function useClock() {
  const ports = usePorts()
  const piece = usePiece()
  const playing = usePlaying()
  const transport = useTransport()
  const live = useLive()
  const notices = useNotices()

  /** The musician has stopped it: what then falls silent is not lost. */
  let isStopped = false
  const listen = ({ from, message, timeStamp }: Heard) => {
    if (from !== ports.clockFrom) return
    // In the page's seconds: the audio clock goes on in leaps.
    switch (ports.clockIn.take(message, timeStamp / 1000)) {
      case 'start':
        isStopped = false
        return void playing.play(0)
      case 'continue':
        isStopped = false
        return void playing.play(ticksOfPulse(ports.clockIn.position))
      case 'stop':
        isStopped = true
        return transport.stop()
    }
  }
  ports.onHeard.add(listen)
  onScopeDispose(() => ports.onHeard.delete(listen))

  function look() {
    if (!ports.clockFrom) return
    const now = performance.now() / 1000
    const { clockIn } = ports
    const isLost = clockIn.isLost(now)
    if (ports.isClockThere && isLost && !isStopped) {
      const going = playing.isPlaying ? `: the music goes on at ${piece.score?.tempo ?? ''}` : ''
      notices.complain(`The clock of “${ports.clockFrom}” is lost${going}.`)
    }
    ports.isClockThere = !isLost
    if (isLost) return
    follow(clockIn.tempo)
    const at = clockIn.ticksAt(now)
    const clock = ports.clock()
    if (at !== null && clock && playing.isPlaying) playing.player?.steer(at, clock.now())
  }
  function follow(tempo: number | null) {
    if (tempo === null || tempo < Score.tempo.min || tempo > Score.tempo.max) return
    const rounded = Math.round(tempo * 100) / 100
    if (live.clockTempo === null || Math.abs(live.clockTempo - rounded) >= MOVED) live.clockTempo = rounded
  }
  useIntervalFn(look, LOOKED_MS)
  watch(
    () => ports.clockFrom,
    (from) => {
      ports.beginClock()
      ports.isClockThere = false
      if (!from) live.clockTempo = null
    },
  )
}

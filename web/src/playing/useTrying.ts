/** Sounds at the touch of a hand, beside whatever plays: keys that are held, voices that are tried. */
import { promiseTimeout } from '@vueuse/core'

import type { Lane, Schemas } from '@/api/client'
import { useNotices } from '@/page/notices'
import { BUILT_IN, type MixSettings } from '@/sound/port'
import { PLAIN_VOICE } from '@/work/document'
import { usePiece } from '@/work/piece'
import { ensureAudio } from './audio'

const PLAINLY: MixSettings = { level: 0, pan: 0, room: 0 }
interface Where {
  readonly port: string
  readonly channel: number
}
const HERE: Where = { port: BUILT_IN, channel: 1 }
const LONGEST_KEY = 60 // seconds that a key sounds at most

export function useTrying() {
  const piece = usePiece()
  const notices = useNotices()

  /** Sound a lane's pitched voice for as long as a key is down; null for other lanes. `where`: its port and channel. */
  async function soundKey(
    lane: Lane,
    tone: Schemas['Tone'] | null,
    pitch: number,
    velocity: number,
    where: Where = HERE,
  ) {
    if (!tone) return null
    const sound = await ensureAudio()
    await sound.resume()
    const time = sound.clock.now() + 0.005
    const voice = { ...PLAIN_VOICE, id: lane.voice, name: lane.name, pitch }
    const sounding = sound.port.strike({
      part: lane.id, ...where, room: lane.room ?? 0, voice, tone, pitch, velocity, time, semitones: 0, level: lane.level_db, pan: lane.pan, end: time + LONGEST_KEY,
    }) // prettier-ignore
    return () => sounding.letGo?.(sound.clock.now())
  }

  /** Sound one voice now, at the touch of a hand. */
  const tryVoice = (voice: Schemas['Voice'], standing: MixSettings = PLAINLY, velocity = 100) =>
    notices.attempt(async () => {
      const sound = await ensureAudio()
      await sound.resume()
      await sound.fetchOwn([voice])
      const time = sound.clock.now() + 0.02
      const channel = piece.document?.kit.channel ?? 10
      const { pitch } = voice
      sound.port.strike({
        ...standing, part: 'kit', port: piece.document?.kit.port ?? BUILT_IN, voice, pitch, semitones: 0, tone: null, velocity, channel, time, end: time + 1,
      }) // prettier-ignore
    })

  /** Sound a voice that plays any pitch once, at the note it sounds best at. */
  const trySinging = ({ id, name, home, tone }: Schemas['VoiceLine'], lane: Lane) =>
    notices.attempt(async () => {
      const end = await soundKey({ ...lane, voice: id, name }, tone, home, 100)
      await promiseTimeout(600)
      end?.()
    })

  return { soundKey, tryVoice, trySinging }
}

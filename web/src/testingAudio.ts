/** The audio for tests, moved by hand: `vi.mock('@/sound/audio', () => import('@/testingAudio'))`. */
import { Switchboard } from '@/sound/switchboard'
import { RecordingPort } from '@/testing'
import { settle } from '@/testingServer'

const listeners = new Set<() => void>()
/** What sounds: exchanged for each test, as the audio is made once for the page. */
export const audio = { time: 10, rested: 0, port: new RecordingPort() }

export const createAudio = async () => ({
  clock: { now: () => audio.time },
  port: new Switchboard({
    strike: (note) => audio.port.strike(note),
    move: (control) => audio.port.move(control),
    rest: () => void audio.rested++,
  }),
  onTick: (act: () => void) => listeners.add(act),
  fetchOwn: async () => undefined,
  resume: async () => undefined,
})

/** Lets so much time go by, as the ticker does. */
export async function run(seconds: number) {
  for (const end = audio.time + seconds; audio.time < end - 1e-9;) {
    audio.time = Math.min(end, audio.time + 0.05)
    listeners.forEach((act) => act())
    await settle()
  }
}

/** The browser's audio, one for the page. */
import { whenIdle } from '@/page/idle'
import type { Audio } from '@/sound/audio'

let audio: Promise<Audio> | undefined
/** The browser's audio, made when it is first needed; Tone.js is fetched only then. */
export const ensureAudio = (): Promise<Audio> =>
  (audio ??= import('@/sound/audio')
    .then(({ createAudio }) => createAudio(latencyAsked()))
    .catch((reason: unknown) => {
      audio = undefined // so that it can be tried again
      throw reason
    }))
/** Make it before it is needed, once what is open is drawn. What goes wrong is said when it is needed. */
export const prepareAudio = () => whenIdle(() => void ensureAudio().catch(() => undefined), 1000)

const latencyAsked = () => Number(new URLSearchParams(location.search).get('latency')) || undefined

/** Let all that sounds fall silent. */
export const restAudio = () => void audio?.then((sound) => sound.port.rest())

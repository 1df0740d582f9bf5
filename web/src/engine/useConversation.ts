import { defineStore } from 'pinia'

import { barsAhead } from '@/sound/requests'
import type { SwitchQuestion } from '@/sound/succession'
import { useAgreement } from './agreement'
import { answer, api, type PlacedRow, type Score, type Schemas } from '@/api/client'

type Sounds = Schemas['Sounds']
type PictureQuestion = Omit<Schemas['RenderQuestion'], 'sounds'>
interface SoundsQuestion {
  readonly score: Score
  readonly dice: number
  readonly row?: PlacedRow | null | undefined
  readonly window: Schemas['Window']
}
interface Wanted {
  readonly question: SoundsQuestion
  readonly resolve: (sounds: Sounds) => void
  readonly reject: (reason: unknown) => void
}

/** Long enough for a picture to be asked: all before anything is drawn. */
async function afterThisTurn() {
  await null
  await null
  await null
}

/**
 * What the page asks of the engine about a score: what is to be drawn, and what is to be heard. Where both are asked in one
 * breath, as at each edit while it plays, they are one question.
 */
export const useConversation = defineStore('conversation', () => {
  const agreement = useAgreement()
  /** An answer about a score, which the engine agrees to or refuses. */
  async function about<Answer>(score: Score, asked: Promise<Answer>): Promise<Answer> {
    try {
      const result = await asked
      agreement.answered(score)
      return result
    } catch (reason) {
      agreement.refused(score, reason)
      throw reason
    }
  }
  /** What is to be heard and has not been asked yet. */
  const wanted = new Set<Wanted>()

  const askAlone = ({ question, resolve, reject }: Wanted) =>
    void answer(api.POST('/api/render/sounds', { body: { ...question, row: question.row ?? null } })).then(
      (sounds) => {
        agreement.answered(question.score)
        resolve(sounds)
      },
      reject, // who listens says whether it was the score that was refused, or more of it than can be had at once
    )

  const sounds = (question: SoundsQuestion): Promise<Sounds> =>
    new Promise((resolve, reject) => {
      const entry = { question, resolve, reject }
      wanted.add(entry)
      // By then what is drawn of the same score has been asked, and has taken it along.
      void afterThisTurn().then(() => {
        if (wanted.delete(entry)) askAlone(entry)
      })
    })

  async function picture(question: PictureQuestion): Promise<Omit<Schemas['News'], 'sounds'>> {
    await null // what is heard of it is asked in the same breath
    const { score, dice, row = null } = question
    const along = [...wanted].find(
      ({ question: heard }) => heard.score === score && heard.dice === dice && (heard.row ?? null) === row,
    )
    if (along) wanted.delete(along)
    try {
      const body = { ...question, sounds: along?.question.window ?? null }
      const { sounds, ...drawn } = await about(score, answer(api.POST('/api/render', { body })))
      if (sounds) along?.resolve(sounds)
      return drawn
    } catch (reason) {
      along?.reject(reason)
      throw reason
    }
  }
  /** When a pattern gives way to another, and what is heard of that. */
  const switches = ({ leaving, coming, ...when }: SwitchQuestion): Promise<Schemas['Switched']> => {
    const of = ({ score, dice, row = null }: SwitchQuestion['coming']) => ({ score, dice, row })
    const body = { ...when, leaving: of(leaving), coming: of(coming), bars: barsAhead(coming.score) }
    return about(coming.score, answer(api.POST('/api/order/switch', { body })))
  }
  return { sounds, switches, picture }
})

/** What hands do to the words of a document: provided by whoever the words are of, injected where a word is. */
import { inject, provide, type InjectionKey } from 'vue'

import type { Alternative, Word } from '@/api/client'
import { engine } from '@/engine/engine'
import { withValueAt, type Patch } from '@/work/document'
import { usePiece } from '@/work/piece'

/** `gesture` is the same for all steps of one movement of the hand. */
export interface WordHands {
  /** The document that the words are of, as it is now. */
  document(): object
  move(word: Word, value: number | string, gesture: string, isTyped: boolean): void
  choose(setting: string, word: string, alternative: Alternative): unknown
  patch(label: string, fields: Patch): void
  cancel(gesture: string): void
  /** What a word could be instead; without a setting, what could begin to act. */
  ask(setting: string, word: string): Promise<Alternative[]>
}

const KEY: InjectionKey<WordHands> = Symbol('words')
export const provideWords = (hands: WordHands) => provide(KEY, hands)

/** @throws where nobody says whose the words are: provide them in the component that shows them. */
export function useWords(): WordHands {
  const hands = inject(KEY, null)
  if (!hands) throw new Error('Words without an owner: call provideWords in the component that shows them.')
  return hands
}

/** What of the piece, not of its pattern, the words outside of lanes change. */
const OF_THE_PIECE = new Set(['tempo', 'swing'])

/** The words of the pattern, and of the tempo and swing of its piece. */
export function patternWords(): WordHands {
  const piece = usePiece()
  const isOfPiece = (field: string) => OF_THE_PIECE.has(field.split('.')[0] ?? '')
  function patch(label: string, fields: Patch) {
    if (Object.keys(fields).some(isOfPiece)) piece.edit(label, (document) => ({ ...document, ...fields }))
    else piece.editPattern(label, (pattern) => ({ ...pattern, ...fields }))
  }
  return {
    document: () => ({ ...piece.pattern, tempo: piece.heard?.tempo, swing: piece.heard?.swing }),
    move(word, value, gesture) {
      const label = `${word.name} → ${value}`
      if (isOfPiece(word.field))
        piece.edit(label, (document) => withValueAt(document, word.field, value), gesture)
      else piece.editPattern(label, (pattern) => withValueAt(pattern, word.field, value), gesture)
    },
    choose: (_setting, _word, alternative) => patch(alternative.text, alternative.patch),
    patch,
    cancel: piece.takeBack,
    ask: (setting, word) => engine.alternatives({ lane: null, setting, word }),
  }
}

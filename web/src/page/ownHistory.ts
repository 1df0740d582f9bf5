import { defineStore } from 'pinia'
import { onScopeDispose, shallowRef } from 'vue'

export interface OwnHistory {
  readonly undo: () => unknown
  readonly redo: () => unknown
}

/** The history that undo and redo go through on a screen that has one of its own; null: the piece's. */
export const useOwnHistory = defineStore('own history', () => {
  const own = shallowRef<OwnHistory | null>(null)
  /** Undo and redo are those of `history` for as long as the scope lives. */
  function take(history: OwnHistory) {
    own.value = history
    onScopeDispose(() => {
      if (own.value === history) own.value = null
    })
  }
  return { own, take }
})

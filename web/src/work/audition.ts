/** What is tried out on the open pattern: seen and heard without a change of the document, until it is ended. */
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'

import type { Pattern, Piece } from '@/api/client'
import { withStanding } from './document'

type Change = (pattern: Pattern) => Pattern

export const useAudition = defineStore('audition', () => {
  /** `piece`: the one in which it is tried, with its tempo, scale and swing; null: the one that is open. */
  const tried = shallowRef<{ readonly change: Change; readonly piece: Piece | null } | null>(null)
  const isOn = computed(() => tried.value !== null)

  /** See and hear the pattern as `change` would make it. */
  function start(change: Change) {
    tried.value = { change, piece: null }
  }
  /** The same with the first pattern of a whole piece, in its tempo, scale and swing. */
  function startPiece(piece: Piece) {
    const [first] = piece.patterns
    if (first) tried.value = { change: ({ id, name }) => ({ ...first, id, name }), piece }
  }
  function end() {
    tried.value = null
  }
  /** Do something to the document, and go on with what is tried out on it. */
  function goOnAfter(act: () => unknown) {
    const before = tried.value?.change
    act()
    if (before)
      start((pattern) => ({ ...before(pattern), lanes: withStanding(before(pattern).lanes, pattern.lanes) }))
  }

  return { tried, isOn, start, startPiece, end, goOnAfter }
})

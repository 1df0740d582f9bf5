import { shallowRef } from 'vue'

/** The history that undo and redo go through on a screen that has one of its own; null: the piece's. */
export const ownHistory = shallowRef<{ readonly undo: () => unknown; readonly redo: () => unknown } | null>(
  null,
)

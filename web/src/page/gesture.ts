/** A name for one movement of the hand, that no other has: all it does is one moment of the history. */
let counted = 0
export const newGesture = (of: string): string => `${of} ${++counted}`

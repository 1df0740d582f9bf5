// A screen that is drawn seldom, and a page that is idle late: what tests look at is what is drawn and said, not how
// smoothly. It takes half of the processor.
const EVERY_MS = 100
const IDLE_AFTER_MS = 60_000
{
  const nextFrame = requestAnimationFrame.bind(window)
  const waiting = new Map()
  let count = 0
  let isAsked = false
  const drawAll = (time) => {
    isAsked = false
    for (const number of [...waiting.keys()]) {
      const draw = waiting.get(number)
      waiting.delete(number)
      try {
        draw?.(time)
      } catch (reason) {
        reportError(reason)
      }
    }
  }
  window.requestAnimationFrame = (draw) => {
    waiting.set(++count, draw)
    if (!isAsked) setTimeout(() => nextFrame(drawAll), EVERY_MS)
    isAsked = true
    return count
  }
  window.cancelAnimationFrame = (number) => waiting.delete(number)
  window.requestIdleCallback = (act) => setTimeout(act, IDLE_AFTER_MS)
  window.cancelIdleCallback = (number) => clearTimeout(number)
}

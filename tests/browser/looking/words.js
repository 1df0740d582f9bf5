/** The words of sentences and benches that are pressed less than `least` pixels high, as a finger finds them, in words. */
(least) => {
  const scrolled = [...document.querySelectorAll('*')]
    .filter((one) => one.scrollHeight > one.clientHeight)
    .map((one) => [one, one.scrollTop])
  const found = [...document.querySelectorAll('.number, .choice, .part .act, .sentence .more')]
    .filter((word) => word.checkVisibility({ opacityProperty: true, visibilityProperty: true }))
    .flatMap((word) => {
      word.scrollIntoView({ block: 'center', behavior: 'instant' })
      const { left, right, top, bottom } = word.getBoundingClientRect()
      const [x, middle] = [(left + right) / 2, (top + bottom) / 2]
      const at = (y) => document.elementFromPoint(x, y)
      if (!word.contains(at(middle))) return [] // it is faded out, or something lies over it
      const isFree = (y) => word.contains(at(y)) || at(y)?.closest('.v-overlay') // what is open lies over a part of it
      // How far it goes up or down, by half pixels, 20 at most: halving, because what is free is of one piece.
      const reach = (way) => {
        let [free, covered] = [0, 20.5]
        while (covered - free > 0.5) {
          const between = Math.round(free + covered) / 2
          if (isFree(middle + way * between)) free = between
          else covered = between
        }
        return free
      }
      const high = reach(-1) + reach(1)
      return high < least ? [`${high} high: ${word.getAttribute('aria-label') ?? word.textContent.trim()}`] : []
    })
  for (const [one, top] of scrolled) one.scrollTop = top
  return found
}

/** Text that is cut off, runs out of the window, or lies over other text or partly under something: said in words. */
() => {
  const SLACK = 2.5
  const overlays = [...document.querySelectorAll('.v-overlay--active .v-overlay__content')]
  const top = overlays.at(-1) ?? document.body
  const says = []
  const name = (of) => `<${of.tagName.toLowerCase()} ${of.getAttribute('class') ?? ''}>`
  const isFaded = (of) => {
    for (let at = of; at && at !== top; at = at.parentElement) {
      const style = getComputedStyle(at)
      if (style.maskImage !== 'none' || style.textOverflow === 'ellipsis') return true
      if (at.matches('.visually-hidden, [aria-hidden=true] svg, .v-overlay, [data-may-be-cut]')) return true
    }
    return false
  }
  /** What is seen of a box within all that cuts it; whether a hand can scroll to the rest. */
  const cutBy = (of, box) => {
    for (let at = of.parentElement; at && at !== document.documentElement; at = at.parentElement) {
      const style = getComputedStyle(at)
      const own = at.getBoundingClientRect()
      const beyondX = box.left < own.left - SLACK || box.right > own.right + SLACK
      const beyondY = box.top < own.top - SLACK || box.bottom > own.bottom + SLACK
      if (style.overflowX !== 'visible' && beyondX) return /auto|scroll/.test(style.overflowX) ? 'scrolled' : name(at)
      if (style.overflowY !== 'visible' && beyondY) return /auto|scroll/.test(style.overflowY) ? 'scrolled' : name(at)
    }
    return null
  }
  const texts = []
  const walker = document.createTreeWalker(top, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const of = node.parentElement
    const text = node.textContent.trim()
    if (!text || !of || isFaded(of) || of.closest('option, style, script, noscript')) continue
    if (!of.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue
    const range = document.createRange()
    range.selectNodeContents(node)
    for (const box of range.getClientRects()) {
      if (box.width < 2 || box.height < 2) continue
      const cut = cutBy(of, box)
      if (cut === 'scrolled') continue
      if (cut) says.push(`“${text}” is cut off by ${cut}`)
      else if (box.right > innerWidth + SLACK || box.left < -SLACK || box.bottom > innerHeight + SLACK)
        says.push(`“${text}” runs out of the window`)
      else texts.push({ text, of, box })
    }
  }
  // Text over text.
  texts.sort((one, other) => one.box.top - other.box.top)
  texts.forEach((one, at) => {
    for (const other of texts.slice(at + 1)) {
      if (other.box.top > one.box.bottom) break
      if (one.of === other.of) continue
      const wide = Math.min(one.box.right, other.box.right) - Math.max(one.box.left, other.box.left)
      const high = Math.min(one.box.bottom, other.box.bottom) - Math.max(one.box.top, other.box.top)
      const lower = Math.min(one.box.height, other.box.height)
      if (wide > SLACK && high > 0.35 * lower) says.push(`“${one.text}” lies over “${other.text}”`)
    }
  })
  // Partly under something that is no text.
  for (const { text, of, box } of texts) {
    if (getComputedStyle(of).pointerEvents === 'none' || of.closest('svg')) continue
    const y = box.top + box.height / 2
    const isSeen = [box.left + 2, box.left + box.width / 2, box.right - 2].map((x) => {
      const there = document.elementFromPoint(x, y)
      return !there || there.contains(of) || of.contains(there)
    })
    if (isSeen.includes(false) && isSeen.includes(true)) says.push(`“${text}” lies partly under something`)
  }
  return [...new Set(says)]
}

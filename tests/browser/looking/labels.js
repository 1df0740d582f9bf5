/** All that is written on the page, its labels and tips among it; names that people gave and code are not. */
() => {
  const texts = []
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node; node = walker.nextNode())
    if (!node.parentElement.closest('script, style, .names, .tags, pre')) texts.push(node.textContent.trim())
  for (const of of document.querySelectorAll('[aria-label], [data-tip], [placeholder], [title]'))
    for (const name of ['aria-label', 'data-tip', 'placeholder', 'title']) texts.push(of.getAttribute(name) ?? '')
  return texts.filter(Boolean)
}

/** Finding a page of help by typing. */
import type { Help, HelpWord } from '@/engine/help'
import { TOPICS, type Topic } from './screens'

export type Page =
  | { readonly kind: 'topic'; readonly title: string; readonly topic: Topic }
  | { readonly kind: 'word'; readonly title: string; readonly word: HelpWord }
  | { readonly kind: 'term'; readonly title: string; readonly term: Help['terms'][number] }
  | { readonly kind: 'keys' | 'beads'; readonly title: string }

export interface Shelf {
  readonly name: string
  readonly pages: readonly Page[]
}

/** All pages, as they are listed. */
export function shelvesOf(help: Help | null): Shelf[] {
  const words = help?.words ?? []
  const groups = [...new Set(words.map(({ group }) => group))]
  return [
    {
      name: 'How to',
      pages: [
        ...TOPICS.map((topic) => ({ kind: 'topic', title: topic.name, topic }) as const),
        { kind: 'keys', title: 'Shortcuts' },
        { kind: 'beads', title: 'What beads tell' },
      ],
    },
    ...groups.map((group) => ({
      name: group === 'pattern' ? 'Of a pattern' : `Of a lane: ${group}`,
      pages: words.filter((word) => word.group === group).map((word) => ({ kind: 'word', title: word.label, word }) as const),
    })),
    {
      name: 'Other words',
      pages: (help?.terms ?? []).map((term) => ({ kind: 'term', title: term.word, term }) as const),
    },
  ]
} // prettier-ignore

const textOf = (page: Page): string => {
  if (page.kind === 'topic') return page.topic.says.join(' ')
  if (page.kind === 'term') return page.term.means
  if (page.kind === 'word')
    return `${page.word.setting} ${page.word.explains} ${page.word.examples.map(({ text }) => text).join(' ')}`
  return ''
}

/** The pages in which each word of `typed` begins a word: those called so first, shelf by shelf. */
export function found(shelves: readonly Shelf[], typed: string): Shelf[] {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean)
  if (!wanted.length) return [...shelves]
  const has = (text: string) => {
    const words = text.toLowerCase().split(/[^\p{L}\p{N}]+/u)
    return wanted.every((one) => words.some((word) => word.startsWith(one)))
  }
  const all = shelves.flatMap(({ pages }) => pages)
  const named = all.filter(({ title }) => has(title))
  const others = all.filter((page) => !named.includes(page) && has(`${page.title} ${textOf(page)}`))
  return [
    { name: 'Called so', pages: named },
    { name: 'Speaks of it', pages: others },
  ].filter(({ pages }) => pages.length)
}

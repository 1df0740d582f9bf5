/** Looking for a starter. */
import type { ListedStarter } from '@/api/library'

/** Whether a starter is what `typed` looks for: every word begins its name's or one of its tags. */
export function isFound({ starter }: ListedStarter, typed: string): boolean {
  const words = [...starter.name.split(/\s+/), ...starter.tags].map((word) => word.toLowerCase())
  return typed
    .toLowerCase()
    .split(/[\s,]+/)
    .every((wanted) => words.some((word) => word.startsWith(wanted)))
}

/** All tags, the most frequent first. */
export function tagsOf(starters: readonly ListedStarter[]): string[] {
  const counts = new Map<string, number>()
  for (const { starter } of starters) {
    for (const tag of starter.tags) counts.set(tag, (counts.get(tag) ?? 0) + 1)
  }
  return [...counts].sort(([a, one], [b, other]) => other - one || a.localeCompare(b)).map(([tag]) => tag)
}

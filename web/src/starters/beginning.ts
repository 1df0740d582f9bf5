/** Beginning from a starter: what it puts in place of a lane or of a pattern. */
import type { ListedStarter } from '@/api/library'
import type { Lane, Pattern, Schemas } from '@/api/client'

/** A pattern after it, or its lane `laneId`, begins from a starter. Voices that `kit` has not are others of it. */
export function begun(pattern: Pattern, laneId: string, of: ListedStarter, kit: Schemas['Kit']): Pattern {
  const whole = of.starter.pattern
  if (whole) {
    const { lanes, meter, bars, step_value } = whole
    return {
      ...pattern,
      lanes: lanes.map((lane, place) => withVoiceOf(lane, place, kit)),
      meter,
      bars,
      step_value,
    }
  }
  return {
    ...pattern,
    lanes: pattern.lanes.map((lane) => (lane.id === laneId ? ({ ...lane, ...of.fields } as Lane) : lane)),
  }
}

function withVoiceOf(lane: Lane, place: number, { voices }: Schemas['Kit']): Lane {
  if (voices.some(({ id }) => id === lane.voice)) return lane
  return { ...lane, voice: voices[place % voices.length]?.id ?? lane.voice }
}

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

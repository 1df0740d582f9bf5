/** What the page knows of what is drawn, by fingerprints: the engine's answer holds the rest. */
import type { Bench, LanePicture, Part, Rendering, Schemas } from '@/api/client'
import { isSame } from '@/api/same'

type News = Schemas['News']

/** Items of one kind, by name. What did not change is the same object. */
class ItemCache<Kind> {
  #items: ReadonlyMap<string, Kind> = new Map()

  /** Keep those of the names, in their order: the fresh ones, and of the others what was known. */
  take(names: readonly string[], fresh: ReadonlyMap<string, Kind>): Kind[] {
    const all = names.flatMap((name) => {
      const item = fresh.get(name) ?? this.#items.get(name)
      return item === undefined ? [] : ([[name, item]] as const)
    })
    this.#items = new Map(all)
    return [...this.#items.values()]
  }
  get = (name: string) => this.#items.get(name)
}

export class PictureCache {
  /** Fingerprints by the items' names; sent with each question. */
  marks: Readonly<Record<string, string>> = {}
  #lanes = new ItemCache<LanePicture>()
  #standing = new ItemCache<Part>()
  #benches = new ItemCache<Bench>()
  #fields = new ItemCache<Bench['fields'][number]>()
  #strips = new ItemCache<Bench['strips'][number]>()
  #meeting: Rendering['meeting'] = null
  /** Benches as they were put together last, each with what it was put together on. */
  #whole = new Map<string, { core: Bench; bench: Bench }>()

  /** All that is drawn, put together from what is new and what is known. */
  take({ marks, lanes, standing, benches, meeting, ...rest }: Omit<News, 'sounds'>): Rendering {
    this.marks = marks
    const names = Object.keys(marks)
    const of = (kind: string) => names.filter((name) => name.startsWith(`${kind} `))
    const fields = benches.flatMap(({ id, fields }) => named(`field ${id}`, fields, settingOf))
    const strips = benches.flatMap(({ id, strips }) => named(`strip ${id}`, strips, ({ name }) => name))
    this.#fields.take(of('field'), new Map(fields))
    this.#strips.take(of('strip'), new Map(strips))
    this.#meeting = meeting ?? this.#meeting
    const cores = this.#benches.take(of('bench'), new Map(named('bench', benches, idOf)))
    const fresh = lanes.map((lane) => this.#withSameWords(lane))
    return {
      ...rest,
      standing: this.#standing.take(of('standing'), new Map(named('standing', standing, settingOf))),
      lanes: this.#lanes.take(of('lane'), new Map(named('lane', fresh, idOf))),
      benches: cores.map((core) => this.#bench(core, of)),
      meeting: this.#meeting,
    }
  }

  #bench(core: Bench, of: (kind: string) => string[]): Bench {
    const fields = of(`field ${core.id}`).flatMap((name) => this.#fields.get(name) ?? [])
    const strips = of(`strip ${core.id}`).flatMap((name) => this.#strips.get(name) ?? [])
    const before = this.#whole.get(core.id)
    if (before?.core === core && areSame(before.bench.fields, fields) && areSame(before.bench.strips, strips))
      return before.bench
    const bench = { ...core, fields, strips }
    this.#whole.set(core.id, { core, bench })
    return bench
  }

  /** A lane with those words of its sentence as they were that say the same. */
  #withSameWords(lane: LanePicture): LanePicture {
    const before = this.#lanes.get(`lane ${lane.id}`)?.sentence.parts ?? []
    const partsBefore = new Map(before.map((part) => [part.setting, part]))
    const parts = lane.sentence.parts.map((part) => {
      const old = partsBefore.get(part.setting)
      return old && isSame(old, part) ? old : part
    })
    return { ...lane, sentence: { ...lane.sentence, parts } }
  }
}

const idOf = ({ id }: { id: string }) => id
const settingOf = ({ setting }: { setting: string }) => setting
/** Items by the names that the engine's fingerprints have. */
const named = <Item>(kind: string, items: readonly Item[], keyOf: (item: Item) => string) =>
  items.map((item) => [`${kind} ${keyOf(item)}`, item] as const)
const areSame = <Item>(some: readonly Item[], others: readonly Item[]) =>
  some.length === others.length && some.every((one, at) => one === others[at])

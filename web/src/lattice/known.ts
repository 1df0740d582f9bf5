/** What the page knows of what is drawn, by fingerprints: the engine's answer holds the rest. */
import type { Bench, LanePicture, Part, Rendering, Schemas } from '@/api/client'

type News = Schemas['News']

/** Items of one kind, by name. What did not change is the same object. */
class Kept<Kind> {
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

export class Known {
  /** Fingerprints by the items' names; sent with each question. */
  marks: Readonly<Record<string, string>> = {}
  #lanes = new Kept<LanePicture>()
  #standing = new Kept<Part>()
  #benches = new Kept<Bench>()
  #fields = new Kept<Bench['fields'][number]>()
  #strips = new Kept<Bench['strips'][number]>()
  #meeting: Rendering['meeting'] = null
  /** Benches as they were put together last. */
  #whole = new Map<string, Bench>()

  /** All that is drawn, put together from what is new and what is known. */
  take({ marks, lanes, standing, benches, meeting, ...rest }: News): Rendering {
    this.marks = marks
    const names = Object.keys(marks)
    const of = (kind: string) => names.filter((name) => name.startsWith(`${kind} `))
    const fields = benches.flatMap(({ id, fields }) =>
      fields.map((one) => [`field ${id} ${one.setting}`, one] as const),
    )
    const strips = benches.flatMap(({ id, strips }) =>
      strips.map((one) => [`strip ${id} ${one.name}`, one] as const),
    )
    this.#fields.take(of('field'), new Map(fields))
    this.#strips.take(of('strip'), new Map(strips))
    this.#meeting = meeting ?? this.#meeting
    const cores = this.#benches.take(of('bench'), new Map(benches.map((one) => [`bench ${one.id}`, one])))
    return {
      ...rest,
      standing: this.#standing.take(of('standing'), new Map(standing.map((one) => [`standing ${one.setting}`, one]))),
      lanes: this.#lanes.take(
        of('lane'),
        new Map(lanes.map((one) => [`lane ${one.id}`, this.#withSameWords(one)])),
      ),
      benches: cores.map((core) => this.#bench(core, of)),
      meeting: this.#meeting,
    } // prettier-ignore
  }

  #bench(core: Bench, of: (kind: string) => string[]): Bench {
    const fields = of(`field ${core.id}`).flatMap((name) => this.#fields.get(name) ?? [])
    const strips = of(`strip ${core.id}`).flatMap((name) => this.#strips.get(name) ?? [])
    const before = this.#whole.get(core.id)
    if (
      before &&
      isSameCore(before, core) &&
      areSame(before.fields, fields) &&
      areSame(before.strips, strips)
    )
      return before
    const bench = { ...core, fields, strips }
    this.#whole.set(core.id, bench)
    return bench
  }

  /** A lane with those words of its sentence as they were that say the same. */
  #withSameWords(lane: LanePicture): LanePicture {
    const before = this.#lanes.get(`lane ${lane.id}`)?.sentence.parts ?? []
    const known = new Map(before.map((part) => [part.setting, part]))
    const parts = lane.sentence.parts.map((part) => {
      const old = known.get(part.setting)
      return old && JSON.stringify(old) === JSON.stringify(part) ? old : part
    })
    return { ...lane, sentence: { ...lane.sentence, parts } }
  }
}

const areSame = <Item>(some: readonly Item[], others: readonly Item[]) =>
  some.length === others.length && some.every((one, at) => one === others[at])
/** Whether a bench was put together from the same answer, its fields and strips apart. */
const isSameCore = (bench: Bench, core: Bench) =>
  (Object.keys(core) as (keyof Bench)[]).every(
    (name) => name === 'fields' || name === 'strips' || bench[name] === core[name],
  )

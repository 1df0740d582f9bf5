/** The musician's own sounds: fetched and decoded once, when a kit first has a voice of them. */

const OWN = /^own-(\d+)$/

export class OwnSounds {
  readonly #known = new Map<string, AudioBuffer>()
  readonly #coming = new Map<string, Promise<void>>()

  constructor(private readonly context: BaseAudioContext) {}

  /** The sound of that id, if it is one of the musician's own and is here. */
  get(id: string): AudioBuffer | undefined {
    return this.#known.get(id)
  }

  /** Fetch those of `ids` that are the musician's own. @throws Error if one of them cannot be had. */
  async fetch(ids: readonly string[]): Promise<void> {
    await Promise.all(ids.filter((id) => OWN.test(id)).map((id) => this.#one(id)))
  }

  #one(id: string): Promise<void> {
    const coming = this.#coming.get(id) ?? this.#load(id)
    this.#coming.set(id, coming)
    return coming
  }

  async #load(id: string) {
    try {
      const number = OWN.exec(id)?.[1] ?? ''
      const reply = await fetch(`/api/sounds/${number}`)
      if (!reply.ok) throw new Error(`Your sound ${number} is not there any more: a stand-in plays instead.`)
      this.#known.set(id, await this.context.decodeAudioData(await reply.arrayBuffer()))
    } catch (reason) {
      this.#coming.delete(id) // so that it can be tried again
      throw reason
    }
  }
}

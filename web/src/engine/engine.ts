/** What the engine is asked about the pattern on the table, beside its rendering. */
import { useView } from './useView'
import { answer, api, type Alternative, type Measures, type Schemas } from '@/api/client'
import { ifStillOpen, openPattern } from './openPattern'

type StripNeeds = Pick<Schemas['StripQuestion'], 'lanes' | 'strip' | 'action'>
type StepsNeeds = Pick<Schemas['StepsQuestion'], 'lanes' | 'first_tick' | 'end_tick' | 'action'>

export const engine = {
  /** What a word could be instead; without a setting, what the lane could begin to use. Drawn over the bars in view. */
  alternatives: (of: { lane: string | null; setting: string; word: string }): Promise<Alternative[]> => {
    const { first_bar, bars } = useView().window
    const body = { ...openPattern(), ...of, window: { first_bar, bars: Math.min(bars, 2) } }
    return ifStillOpen(answer(api.POST('/api/render/alternatives', { body })))
  },
  /** The sources of a lane (or all that may be) after a throw. */
  throwLanes: async (percent: number, number: number, lane: string | null = null) => {
    const body = { ...openPattern(), percent, throw: number, lane }
    return (await ifStillOpen(answer(api.POST('/api/render/throw', { body })))).sources
  },
  /** What lanes become when something is done to one of their strips: fields by lane. */
  changeStrip: async (of: Omit<Partial<Schemas['StripQuestion']>, 'score' | 'dice'> & StripNeeds) => {
    const body = { low: 0, high: 0, shape: 'even' as const, throw: 1, ...of, ...openPattern() }
    return (await ifStillOpen(answer(api.POST('/api/render/strip', { body })))).patches
  },
  /** What lanes become with a new strip of a MIDI controller. */
  beginControl: async (lanes: readonly string[], controller: number) =>
    (
      await ifStillOpen(
        answer(
          api.POST('/api/render/control', { body: { ...openPattern(), lanes: [...lanes], controller } }),
        ),
      )
    ).patches,
  /** What lanes become with a MIDI channel each, or with their voices' again: fields by lane. */
  channels: async () =>
    (await ifStillOpen(answer(api.POST('/api/render/channels', { body: openPattern() })))).patches,
  /** What moves controls after hands moved them; null where nothing does. */
  afterHands: async (hands: Schemas['HandMove'][]) => {
    const { meter } = openPattern().score
    return (await ifStillOpen(answer(api.POST('/api/render/moves', { body: { meter, hands } })))).movements
  },
  /** What lanes become with as few points in their movements as play the same notes. */
  fewerPoints: async (lanes: readonly string[]) =>
    (
      await ifStillOpen(
        answer(api.POST('/api/render/moves/fewer', { body: { ...openPattern(), lanes: [...lanes] } })),
      )
    ).patches,
  /** What lanes become when something is done to the steps that begin in a stretch of time. */
  changeSteps: (of: Omit<Partial<Schemas['StepsQuestion']>, 'score' | 'dice'> & StepsNeeds) => {
    const body = { number: 1, of: 2, copied: [], ...of, ...openPattern() }
    return ifStillOpen(answer(api.POST('/api/render/steps', { body })))
  },
  /** What lanes become when others that they read are gone, by their ids; only those that read any. */
  without: async (
    gone: ReadonlySet<string>,
    laneIds: readonly string[],
  ): Promise<Map<string, Record<string, unknown>>> => {
    const body = { ...openPattern(), window: { first_bar: 0, bars: 1 }, chosen: [...laneIds], known: {} }
    const { benches } = await ifStillOpen(answer(api.POST('/api/render', { body })))
    const freed = benches.map(({ id, without }) => {
      const patches = Object.entries(without).filter(([of]) => gone.has(of))
      return [id, Object.assign({}, ...patches.map(([, patch]) => patch)) as Record<string, unknown>] as const
    })
    return new Map(freed.filter(([, patch]) => Object.keys(patch).length))
  },
  measures: (lane: string, since: Schemas['Score'], sinceDice: number): Promise<Measures> =>
    ifStillOpen(
      answer(
        api.POST('/api/render/measures', { body: { ...openPattern(), lane, since, since_dice: sinceDice } }),
      ),
    ),
}

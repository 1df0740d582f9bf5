import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import NoteSheet from './NoteSheet.vue'

const track = (lane: string, ...starts: number[]) => ({
  lane, ink: 0, channel: 10, controls: [], notes: starts.map((start) => [start, 10, 36, 100, 0] as never),
}) // prettier-ignore
const paths = (wrapper: ReturnType<typeof mount>, kind: string) =>
  wrapper.findAll(`path.${kind}`).map((path) => (path.attributes('d') ?? '').split('M').length - 1)

it('draws each of two lanes of one name with its own notes', () => {
  const tracks = [track('Winch', 0), track('Winch', 100, 200, 300), track('Thud')]
  const props = { name: 'clip', tracks, lengthTicks: 1000, barTicks: 500, width: 400, height: 90 }
  expect(paths(mount(NoteSheet, { props }), 'full')).toEqual([1, 3, 0])
})

it('lays another clip beside it lane by lane, the second of a name beside the second', () => {
  const tracks = [track('Winch', 0), track('Winch', 100)]
  const beside = {
    tracks: [track('Winch', 0), track('Winch', 5, 6), track('Gull', 7)],
    only: [[], [0, 1], [0]],
  }
  const props = { name: 'clip', tracks, beside, lengthTicks: 1000, barTicks: 500, width: 400, height: 90 }
  expect(paths(mount(NoteSheet, { props }), 'outline')).toEqual([2, 1])
})

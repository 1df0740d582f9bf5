import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it } from 'vitest'

import { useView } from '@/engine/useView'
import { usePlaying } from '@/playing/playing'
import { aPicture } from '@/testing'
import { useFollowing } from './useFollowing'

beforeEach(() => setActivePinia(createPinia()))

it('turns the page with the music, but not under chosen steps', () => {
  const view = useView()
  view.bars = 2
  usePlaying().isPlaying = true
  let areStepsChosen = true
  const { follow } = useFollowing(
    view,
    () => aPicture(),
    () => 100,
    () => areStepsChosen,
  )
  follow(250)
  expect(view.firstBar).toBe(0)
  areStepsChosen = false
  follow(250)
  expect(view.firstBar).toBe(2)
})

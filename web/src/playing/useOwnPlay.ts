import { onScopeDispose } from 'vue'

import { usePlaying } from './playing'

/** Let Space play what this screen holds, for as long as the scope lives. What plays goes on between screens. */
export function useOwnPlay(play: () => unknown) {
  const playing = usePlaying()
  playing.ownPlay = play
  onScopeDispose(() => {
    if (playing.ownPlay === play) playing.ownPlay = null
  })
}

import { onScopeDispose } from 'vue'

import { useTransport } from './transport'

/** Let Space play what this screen holds, for as long as the scope lives. What plays goes on between screens. */
export function useOwnPlay(play: () => unknown) {
  const transport = useTransport()
  transport.ownPlay = play
  onScopeDispose(() => {
    if (transport.ownPlay === play) transport.ownPlay = null
  })
}

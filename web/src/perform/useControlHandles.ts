/** What hands, and the controllers under them, do to what a big control holds. */
import { engine } from '@/engine/engine'
import { useHandSettings } from '@/hands/useHandSettings'
import { useNotices } from '@/page/notices'
import { useMutes } from '@/playing/mutes'
import { newThrow, withField, withValueAt } from '@/work/document'
import { usePiece } from '@/work/piece'
import { storedValue, type ControlHandle } from './controlHandles'

/** What of the piece, not of its pattern, is held. */
const OF_THE_PIECE = /^(tempo|swing)/

export function useControlHandles() {
  const piece = usePiece()
  const mutes = useMutes()
  const settings = useHandSettings()
  const notices = useNotices()

  /** Move what is held to a value, or to the option at that place. */
  function move(hold: ControlHandle, value: number, gesture: string) {
    const { field, options, unit } = hold.control
    const stored = storedValue(hold, value)
    const label = `${hold.lane}: ${hold.name} ${options[value]?.says ?? `${value}${unit}`}`
    if (hold.laneId === null) {
      if (OF_THE_PIECE.test(field))
        piece.edit(label, (document) => withValueAt(document, field, stored), gesture)
      else piece.editPattern(label, (pattern) => withValueAt(pattern, field, stored), gesture)
    } else if (field === 'mute') mutes.mute(hold.laneId, stored === true)
    else piece.editLane(hold.laneId, label, (lane) => withField(lane, field, stored), gesture)
  }

  async function throwAll() {
    const [percent, number] = [settings.throwPercent, newThrow()]
    try {
      await piece.editLanesAsAnswered(`All thrown by ${percent} %`, async () => {
        const sources = Object.entries(await engine.throwLanes(percent, number))
        return new Map(sources.map(([laneId, source]) => [laneId, { source }]))
      })
    } catch (reason) {
      notices.complain(reason)
    }
  }
  return { move, throwAll }
}

/** The keys of the clip editor. */
import type { Action } from '@/api/clips'
import type { Schemas } from '@/api/client'
import { useShortcuts } from '@/page/useShortcuts'
import type { View } from './layout'

interface Hands {
  readonly act: (action: Action) => unknown
  /** Whether there are chosen notes to act on. */
  readonly canAct: () => boolean
  readonly step: () => Required<Schemas['StepValue']>
  readonly view: () => View
  readonly copy: () => unknown
  readonly paste: () => unknown
  readonly chooseAll: () => unknown
  readonly chooseNone: () => unknown
  readonly compare: () => unknown
  readonly zoom: (by: number) => unknown
}

/** A little, by Alt and the arrows: ticks. */
const LITTLE = 140

export function useEditorKeys({
  act,
  canAct,
  step,
  view,
  copy,
  paste,
  chooseAll,
  chooseNone,
  compare,
  zoom,
}: Hands) {
  const ifChosen = (doing: () => unknown) => () => canAct() && doing()
  const move = (fields: Partial<Extract<Action, { kind: 'move' }>>) =>
    ifChosen(() => act({ kind: 'move', step: step(), ...fields }))
  const upDown = (by: number) =>
    ifChosen(() => act(view() === 'drums' ? { kind: 'move', rows: by } : { kind: 'move', semitones: -by }))
  useShortcuts({
    'ArrowLeft': { says: 'Chosen notes a step earlier', act: move({ steps: -1 }) },
    'ArrowRight': { says: 'Chosen notes a step later', act: move({ steps: 1 }) },
    'Alt+ArrowLeft': { says: 'A little earlier', act: move({ ticks: -LITTLE }) },
    'Alt+ArrowRight': { says: 'A little later', act: move({ ticks: LITTLE }) },
    'ArrowUp': { says: 'A lane or a semitone up', act: upDown(-1) },
    'ArrowDown': { says: 'A lane or a semitone down', act: upDown(1) },
    'Shift+ArrowLeft': { says: 'A step shorter', act: ifChosen(() => act({ kind: 'resize', steps: -1, step: step() })) },
    'Shift+ArrowRight': { says: 'A step longer', act: ifChosen(() => act({ kind: 'resize', steps: 1, step: step() })) },
    '+': { says: 'Harder', act: ifChosen(() => act({ kind: 'harder', by: 5 })) },
    '-': { says: 'Softer', act: ifChosen(() => act({ kind: 'harder', by: -5 })) },
    'Delete': { says: 'Remove the chosen notes', act: ifChosen(() => act({ kind: 'delete' })) },
    'Backspace': { says: '', act: ifChosen(() => act({ kind: 'delete' })) },
    'Ctrl+a': { says: 'Choose all notes', act: chooseAll },
    'Escape': { says: 'Choose none', act: chooseNone },
    'Ctrl+c': { says: 'Copy the chosen notes', act: copy },
    'Ctrl+x': { says: 'Cut the chosen notes', act: ifChosen(() => (copy(), act({ kind: 'delete' }))) },
    'Ctrl+v': { says: 'Paste them', act: paste },
    'r': { says: 'Repeat the chosen notes', act: ifChosen(() => act({ kind: 'repeat', step: step() })) },
    'q': { says: 'Quantise', act: () => act({ kind: 'quantise', step: step() }) },
    'c': { says: 'As it is, or as it was opened', act: compare },
    '[': { says: 'See more', act: () => zoom(0.8) },
    ']': { says: 'See less, larger', act: () => zoom(1.25) },
  }) // prettier-ignore
}

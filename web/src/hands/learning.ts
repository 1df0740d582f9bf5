/** Learning: a control on screen is pressed, a thing on a controller is moved, and from then on it moves the control. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { portsApi, type Binding, type ControllerTable, type Target } from '@/api/ports'
import { isSame } from '@/api/same'
import { useNotices } from '@/page/notices'
import { usePiece } from '@/work/piece'

/** What a message of a controller is of: its kind, channel and number. */
export type Thing = Pick<Binding, 'message' | 'channel' | 'number'>

export const useLearning = defineStore('learning', () => {
  const notices = useNotices()
  const piece = usePiece()
  /** Whether a press on a control means: learn this one. */
  const isOn = ref(false)
  /** The control that waits for a thing to be moved. */
  const wanted = shallowRef<Target | null>(null)
  const tables = shallowRef<readonly ControllerTable[]>([])
  /** Where knobs stand that wait for their values, by what they move; 0 to 1. */
  const waiting = shallowRef<ReadonlyMap<string, number>>(new Map())
  let reading: Promise<unknown> | null = null

  const read = () =>
    (reading ??= portsApi.controllers().then(
      (found) => (tables.value = found),
      (reason) => {
        reading = null
        notices.complain(reason)
      },
    ))
  /** Somebody else has signed in. */
  function forget() {
    reading = null
    tables.value = []
    begin(false)
  }

  function begin(on = !isOn.value) {
    isOn.value = on
    wanted.value = null
  }

  const isThing = (one: Binding, { message, channel, number }: Thing) =>
    one.message === message && one.channel === channel && one.number === number
  const find = (from: string, thing: Thing): Binding | undefined =>
    tables.value.find(({ name }) => name === from)?.bindings.find((one) => isThing(one, thing))

  /** Keep tables; where they cannot be kept, all is as it was. */
  async function keep(next: readonly ControllerTable[]): Promise<boolean> {
    const before = tables.value
    // What is no table is left for the server to say.
    tables.value = next.filter((one) => one?.bindings?.length !== 0)
    try {
      tables.value = await portsApi.bind(tables.value)
      return true
    } catch (reason) {
      tables.value = before
      notices.complain(reason)
      return false
    }
  }
  /** A thing moves `target` from now on, and nothing else; what moved it on the same controller does so no more. */
  async function bind(from: string, thing: Thing, target: Target) {
    wanted.value = null
    const table = tables.value.find(({ name }) => name === from)
    const others = (table?.bindings ?? []).filter(
      (one) => !isThing(one, thing) && !isSame(one.target, target),
    )
    const learned = { name: from, bindings: [...others, { ...thing, target }] }
    const isKept = await keep([...tables.value.filter(({ name }) => name !== from), learned])
    if (isKept) notices.say(`${thingSaid(thing)} of “${from}” moves ${targetSaid(target)}.`)
  }
  const unbind = (from: string, binding: Binding) =>
    keep(
      tables.value.map((table) =>
        table.name === from ? { ...table, bindings: table.bindings.filter((one) => one !== binding) } : table,
      ),
    )

  /** What people call a target. */
  function targetSaid(target: Target): string {
    switch (target.kind) {
      case 'hand':
        return `big control ${target.place + 1}`
      case 'control':
        return piece.id === null || target.piece === piece.id
          ? target.name
          : `${target.name} (of another piece)`
      case 'pattern':
        return `pattern ${piece.patterns[target.place]?.name ?? target.place + 1}`
      case 'mute':
        return `the mute of ${piece.lanes[target.place]?.name ?? `lane ${target.place + 1}`}`
      case 'detour':
        return `detour ${target.detour}`
      case 'act':
        return target.act
    }
  }
  const count = computed(() => tables.value.reduce((sum, { bindings }) => sum + bindings.length, 0))

  return { isOn, wanted, tables, waiting, count, read, forget, begin, find, keep, bind, unbind, targetSaid }
})

export const thingSaid = ({ message, channel, number }: Thing): string =>
  `${message === 'note' ? `Key ${number}` : message === 'control' ? `Controller ${number}` : message === 'bend' ? 'The bend' : 'The pressure'} on channel ${channel}`
export const keyOfTarget = (target: Target): string => JSON.stringify(target)

<script setup lang="ts">
/**
 * The movements of a lane under its thread: a line over time each, level from point to point. A point is dragged, or moved
 * with the arrows; a press on the line adds one; Delete takes it out.
 */
import { computed, ref } from 'vue'

import type { Lane, LanePicture, Schemas } from '@/api/client'
import { newGesture } from '@/page/gesture'
import { useDrag } from '@/page/useDrag'
import { withMovement, withoutPoint, withPoint } from '@/work/movements'
import { usePiece } from '@/work/piece'
import { tickAt, ticksBeside, xOf, type TimeScale } from './geometry/scale'

type Picture = Schemas['MovementPicture']
const props = defineProps<{ lane: Lane; picture: LanePicture; scale: TimeScale; ink: string }>()
const piece = usePiece()
const HEIGHT = 48
const PAD = 8
/** Pixels that a value's words need. */
const WORDS = 46

const yOf = (share: number) => PAD + (1 - share) * (HEIGHT - 2 * PAD)
const lines = computed(() =>
  props.picture.movements.map((shown) => {
    const xs = shown.ticks.map((tick) => xOf(tick, props.scale))
    const end = xOf(props.scale.endTick, props.scale)
    const path = xs
      .map((x, at) => {
        const y = yOf(shown.shares[at] ?? 0)
        return `${at ? `V${y}` : `M${x} ${y}`}H${xs[at + 1] ?? end}`
      })
      .join('')
    let free = 0
    const hasRoom = (x: number) => x >= free && ((free = x + WORDS), true)
    // Where it holds already when the window begins, there is no point.
    const points = xs.flatMap((x, at) => {
      const place = shown.places[at] ?? -1
      const movement = props.lane.movements?.find(({ control }) => control === shown.control)
      const isHere = at > 0 || movement?.points[place]?.[0] === shown.ticks[0]
      if (place < 0 || !isHere) return []
      return [
        { at, place, x, y: yOf(shown.shares[at] ?? 0), says: shown.says[at] ?? '', hasRoom: hasRoom(x) },
      ]
    })
    return { shown, path, points }
  }),
)
const movementOf = (shown: Picture) => props.lane.movements?.find(({ control }) => control === shown.control)

/** The value at a share of the height, of what the control may have. */
function valueAtShare(shown: Picture, share: number) {
  const value = Math.round(shown.low + Math.min(1, Math.max(0, share)) * (shown.high - shown.low))
  return shown.options.length ? (shown.options[value]?.value ?? 0) : value
}
function edit(
  shown: Picture,
  said: string,
  change: (old: NonNullable<ReturnType<typeof movementOf>>) => ReturnType<typeof movementOf> | null,
  gesture: string | null = null,
) {
  piece.editLane(
    props.lane.id,
    `${props.lane.name}: ${shown.name} ${said}`,
    (lane) => {
      const old = lane.movements?.find(({ control }) => control === shown.control)
      const next = old && change(old)
      return next === undefined
        ? lane
        : { ...lane, movements: withMovement(lane.movements ?? [], shown.control, next) }
    },
    gesture,
  )
}

const chosen = ref('')
const drag = useDrag((event) => {
  const target = event.target instanceof Element ? event.target : null
  const svg = target?.closest<SVGSVGElement>('svg[data-control]')
  const shown = props.picture.movements.find(({ control }) => control === svg?.dataset['control'])
  const movement = shown && movementOf(shown)
  if (!svg || !shown || !movement) return null
  const box = svg.getBoundingClientRect()
  const shareOf = (y: number) => 1 - (y - box.top - PAD) / (HEIGHT - 2 * PAD)
  const gesture = newGesture(`${props.lane.id} ${shown.control}`)
  const place = Number(target?.closest<SVGElement>('[data-place]')?.dataset['place'] ?? -1)
  const from = movement.points[place]?.[0]
  if (from === undefined) {
    const tick = Math.max(0, Math.round(tickAt(event.clientX - box.left, props.scale)))
    edit(
      shown,
      'point added',
      (old) => withPoint(old, tick, valueAtShare(shown, shareOf(event.clientY))),
      gesture,
    )
    return {
      move: ({ clientY }) =>
        edit(
          shown,
          'point added',
          (old) => withPoint(old, tick, valueAtShare(shown, shareOf(clientY))),
          gesture,
        ),
    }
  }
  const begin = event.clientX
  return {
    move({ clientX, clientY }) {
      const tick = Math.max(0, Math.round(ticksBeside(from, clientX - begin, props.scale)))
      edit(
        shown,
        'point moved',
        (old) => withPoint(old, tick, valueAtShare(shown, shareOf(clientY)), from),
        gesture,
      )
    },
  }
})
function onKey(event: KeyboardEvent, shown: Picture, place: number) {
  const point = movementOf(shown)?.points[place]
  if (!point) return
  const [tick, value] = point
  const now = shown.options.length
    ? shown.options.findIndex((one) => JSON.stringify(one.value) === JSON.stringify(value))
    : Number(value)
  const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key]
  const along = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  if (by) {
    const next = Math.min(shown.high, Math.max(shown.low, now + by))
    edit(shown, 'point moved', (old) =>
      withPoint(old, tick, shown.options.length ? (shown.options[next]?.value ?? value) : next),
    )
  } else if (along) {
    const to = Math.max(0, Math.round(ticksBeside(tick, along * 4, props.scale)))
    edit(shown, 'point moved', (old) => withPoint(old, to, value, tick))
  } else if (event.key === 'Delete' || event.key === 'Backspace')
    edit(shown, 'point taken out', (old) => withoutPoint(old, place))
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div class="movements" data-test="movements">
    <div
      v-for="{ shown, path, points } in lines"
      :key="shown.control"
      class="movement"
      :class="{ off: shown.off }"
    >
      <div class="head">
        <span class="named">{{ shown.name }}</span> moves
        <span v-if="shown.off">: off</span>
      </div>
      <svg
        class="inked"
        :data-control="shown.control"
        :width="scale.width"
        :height="HEIGHT"
        role="group"
        :aria-label="`${lane.name}: ${shown.name} while it plays`"
        v-bind="drag.on"
      >
        <line :x1="0" :x2="scale.width" :y1="yOf(0)" :y2="yOf(0)" class="floor" />
        <line :x1="0" :x2="scale.width" :y1="yOf(1)" :y2="yOf(1)" class="floor" />
        <path :d="path" class="path" :stroke="ink" />
        <g v-for="point in points" :key="point.at">
          <circle
            :cx="point.x"
            :cy="point.y"
            r="12"
            class="hand"
            :data-place="point.place"
            tabindex="0"
            role="slider"
            data-owns-keys
            :aria-label="`${shown.name}, point ${point.place + 1}`"
            :aria-valuetext="point.says"
            @focus="chosen = `${shown.control} ${point.at}`"
            @keydown="onKey($event, shown, point.place)"
          />
          <circle :cx="point.x" :cy="point.y" r="5" :fill="ink" class="point" />
          <text
            v-if="point.hasRoom || chosen === `${shown.control} ${point.at}`"
            :x="point.x + 8"
            :y="point.y < 20 ? point.y + 15 : point.y - 7"
          >
            {{ point.says }}
          </text>
        </g>
      </svg>
    </div>
  </div>
</template>

<style scoped>
.movements {
  flex: none;
  border-bottom: 1px solid var(--rule);
  background: color-mix(in srgb, var(--card) 70%, transparent);
}
.movement {
  display: grid;
  grid-template-columns: var(--head) 1fr;
  align-items: center;
}
.movement.off {
  opacity: 0.45;
}
.head {
  padding-left: 25px;
  font-size: 14px;
  color: var(--act-text);
}
.head .named {
  color: var(--act-text);
}
svg {
  display: block;
  touch-action: none;
  cursor: crosshair;
}
.floor {
  stroke: var(--rule);
}
.path {
  fill: none;
  stroke-width: 2.5;
}
.off .path {
  stroke-dasharray: 5 5;
}
.hand {
  fill: transparent;
  cursor: move;
}
.hand:focus {
  outline: none;
  stroke: var(--act);
  stroke-width: 2;
}
.point {
  pointer-events: none;
}
text {
  font-size: 13px;
  fill: var(--ink);
  pointer-events: none;
}
</style>

<script setup lang="ts">
/** The playhead and the beads that sound, drawn over the threads at every frame while it plays. */
import { ref } from 'vue'

import { canvasOf, useFrames } from '@/page/useFrames'
import type { Player } from '@/sound/player'
import { inkOf } from '@/theme/inks'
import { radiusOf } from './geometry/beads'
import { pixelsOf, xOf, type TimeScale } from './geometry/scale'

const props = defineProps<{
  player: Player | null
  isPlaying: boolean
  patternId: string
  scale: TimeScale
  /** Where a lane's bead of a pitch lies, in pixels from the top; undefined where there is no such lane. */
  placeOf: (laneId: string, pitch: number) => number | undefined
  height: number
  /** Length of a step of each lane in ticks, by lane id: a lit bead is as large as its neighbours let it be. */
  stepTicks: ReadonlyMap<string, number>
  /** Whether beads light up as they sound: not where bars are shown in place of them. */
  lights: boolean
}>()
/** The tick that plays, so that the view can follow. */
const emit = defineEmits<{ at: [tick: number] }>()

/** Seconds that a bead stays lit. */
const LIT = 0.16

const canvas = ref<HTMLCanvasElement>()
const line = ref<HTMLElement>()

/** What is lit as it was drawn last: a frame that shows the same draws nothing. */
let drawn = ''

function draw() {
  const { player, scale } = props
  if (!player || !line.value) return
  const tick = player.nowTick
  // While another pattern is heard, nothing here is.
  const isHeard = !props.isPlaying || player.patternId === props.patternId
  if (isHeard) emit('at', tick)
  const isInView = isHeard && tick >= scale.firstTick && tick <= scale.endTick
  line.value.style.transform = `translateX(${xOf(tick, scale)}px)`
  line.value.style.visibility = isInView ? 'visible' : 'hidden'
  light(props.isPlaying && isHeard && props.lights ? lit(player) : [])
}

interface Light {
  readonly x: number
  readonly y: number
  readonly radius: number
  readonly ink: number
}
function lit(player: Player): Light[] {
  const { scale } = props
  return player.soundingWithin(LIT).flatMap(({ laneId, pitch, start, velocity, ink }) => {
    const y = props.placeOf(laneId, pitch)
    if (y === undefined || start < scale.firstTick || start >= scale.endTick) return []
    const stepPixels = pixelsOf(props.stepTicks.get(laneId) ?? 0, scale)
    return { x: xOf(start, scale), y, radius: 1.4 * radiusOf(velocity, stepPixels) + 2, ink }
  })
}
function light(lights: readonly Light[]) {
  const surface = canvas.value
  const context = surface?.getContext('2d')
  // A canvas of another size has been emptied.
  const now = JSON.stringify([surface?.width, surface?.height, lights])
  if (!surface || !context || now === drawn) return
  drawn = now
  const pixel = window.devicePixelRatio
  context.setTransform(pixel, 0, 0, pixel, 0, 0)
  context.clearRect(0, 0, surface.width, surface.height)
  for (const { x, y, radius, ink } of lights) {
    context.beginPath()
    context.arc(x, y, radius, 0, 2 * Math.PI)
    context.fillStyle = `${inkOf(ink)}55`
    context.fill()
    context.lineWidth = 3
    context.strokeStyle = inkOf(ink)
    context.stroke()
  }
}

useFrames(
  draw,
  () => props.isPlaying,
  () => [props.player, props.scale, props.height, props.patternId],
)
</script>

<template>
  <div class="playhead" aria-hidden="true">
    <canvas ref="canvas" v-bind="canvasOf(scale.width, height)" />
    <div ref="line" class="line" />
  </div>
</template>

<style scoped>
.playhead {
  position: absolute;
  inset: 0;
  pointer-events: none;
  overflow: hidden;
}
canvas {
  position: absolute;
  inset: 0;
}
.line {
  position: absolute;
  top: 0;
  bottom: 0;
  left: -1px;
  visibility: hidden; /* until it is placed */
  width: 2px;
  background: var(--act);
  will-change: transform; /* moved, never drawn anew */
}
</style>

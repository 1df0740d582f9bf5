<script setup lang="ts">
/** The playhead and the beads that sound, drawn over the threads at every frame while it plays. */
import { ref } from 'vue'

import { canvasOf, useFrames } from '@/page/useFrames'
import type { Player } from '@/sound/player'
import { inkOf } from '@/theme/inks'
import { radiusOf } from './geometry/beads'
import { pixelsOf, xOf, type Scale } from './geometry/scale'

const props = defineProps<{
  player: Player | null
  isPlaying: boolean
  patternId: string
  scale: Scale
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

function draw() {
  const { player, scale } = props
  const surface = canvas.value
  const context = surface?.getContext('2d')
  if (!player || !surface || !context || !line.value) return
  const tick = player.nowTick
  // While another pattern is heard, nothing here is.
  const isHeard = !props.isPlaying || player.patternId === props.patternId
  if (isHeard) emit('at', tick)
  const x = xOf(tick, scale)
  const isInView = isHeard && tick >= scale.firstTick && tick <= scale.endTick
  line.value.style.transform = `translateX(${x}px)`
  line.value.style.visibility = isInView ? 'visible' : 'hidden'
  context.clearRect(0, 0, surface.width, surface.height)
  if (!props.isPlaying || !isHeard || !props.lights) return
  const pixel = window.devicePixelRatio
  context.setTransform(pixel, 0, 0, pixel, 0, 0)
  for (const note of player.soundingWithin(LIT)) {
    const y = props.placeOf(note.laneId, note.pitch)
    if (y === undefined || note.start < scale.firstTick || note.start >= scale.endTick) continue
    const stepPixels = pixelsOf(props.stepTicks.get(note.laneId) ?? 0, scale)
    const radius = 1.4 * radiusOf(note.velocity, stepPixels) + 2
    context.beginPath()
    context.arc(xOf(note.start, scale), y, radius, 0, 2 * Math.PI)
    context.fillStyle = `${inkOf(note.ink)}55`
    context.fill()
    context.lineWidth = 3
    context.strokeStyle = inkOf(note.ink)
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
}
</style>

<script setup lang="ts">
// What is at a place outside any rack, stood in a row to one scale.
import { computed } from 'vue'
import type { Device } from '../../api/client'
import DeviceFace from '../../draw/DeviceFace.vue'
import { sizeMM } from '../../draw/scale'
import { whatIs, title } from '../../lab/words'

const props = defineProps<{ devices: Device[]; width: number; picked: string }>()
const emit = defineEmits<{ lift: [device: Device, event: PointerEvent] }>()

const gap = 26
const scale = computed(() => {
  const wide = props.devices.reduce((sum, d) => sum + Math.max(sizeMM(d).w, 150), 0)
  const high = Math.max(1, ...props.devices.map((d) => sizeMM(d).h))
  return Math.min(0.55, (props.width - gap * (props.devices.length + 1)) / Math.max(1, wide), 300 / high)
})
const floor = 320
const row = computed(() => {
  let x = gap
  return props.devices.map((device) => {
    const size = sizeMM(device)
    const w = Math.max(size.w * scale.value, 30)
    const h = Math.max(size.h * scale.value, 18)
    const box = { x, y: floor - h, w, h }
    x += Math.max(w, title(device).length * 7, 70) + gap
    return { device, box, known: size.known }
  })
})
</script>

<template>
  <svg :width="width" :height="floor + 60" role="group" aria-label="What is here">
    <path :d="`M0 ${floor + 0.5}h${width}`" class="floor" />
    <g
      v-for="r in row"
      :key="r.device.id"
      class="thing"
      :data-device="r.device.id"
      role="img"
      :aria-label="title(r.device)"
      @pointerdown="emit('lift', r.device, $event)">
      <title>{{ title(r.device) }}</title>
      <DeviceFace :device="r.device" :box="r.box" :scale="scale" :picked="r.device.id === picked" small back />
      <text :x="r.box.x" :y="floor + 18" class="name">{{ title(r.device) }}</text>
      <text :x="r.box.x" :y="floor + 35" class="kind">{{ whatIs(r.device) }}</text>
      <text v-if="!r.known" :x="r.box.x" :y="floor + 52" class="size">? mm</text>
    </g>
  </svg>
</template>

<style scoped>
.floor {
  stroke: var(--ink);
}
.thing {
  cursor: pointer;
  touch-action: none;
}
.name {
  font: 600 14px var(--names);
  fill: var(--ink);
}
.kind {
  font: 400 12px var(--sentences);
  fill: var(--soft);
}
.size {
  font: 400 12px var(--figures);
  fill: var(--red);
}
.thing :deep(.device .name) {
  display: none;
}
</style>

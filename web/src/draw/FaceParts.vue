<script setup lang="ts">
// What the spec says is on this face: ports in their rows, bays with and
// without drives, outlets, supplies. Without a spec, the sign of the kind.
import { computed } from 'vue'
import type { Device } from '../api/client'
import { useLab } from '../lab/useLab'
import { traitsOf } from '../lab/words'
import FaceMotif from './FaceMotif.vue'
import { cellsOf, partsBox, specOf } from './faceParts'
import type { Box } from './scale'

const props = defineProps<{ device: Device; box: Box; scale: number; back?: boolean }>()
const { lab, partsIn } = useLab()

/** The right part of the face, beside the name. */
const area = computed(() => partsBox(props.box))
const cells = computed(() => {
  if (!lab.value) return []
  const room = { w: area.value.w / props.scale, h: area.value.h / props.scale }
  return cellsOf(specOf(props.device, lab.value.spec_sheets), props.back ? 'rear' : 'front', room, traitsOf(props.device.device_kind))
})
const parts = computed(() => partsIn.value.get(props.device.id) ?? [])
const inSeat = (kind: string, seat: number) => parts.value.find((p) => p.part_kind === kind && p.seat === seat)
const drawn = computed(() =>
  cells.value.map((c) => {
    const part = c.kind === 'bay' ? inSeat('drive', c.seat) : c.kind === 'supply' ? inSeat('supply', c.seat) : undefined
    return {
      ...c,
      x: area.value.x + c.x * props.scale,
      y: area.value.y + c.y * props.scale,
      w: c.w * props.scale,
      h: c.h * props.scale,
      full: !!part,
      faulty: part?.state === 'faulty',
    }
  }),
)
</script>

<template>
  <g v-if="drawn.length" class="parts" aria-hidden="true">
    <template v-for="(c, i) in drawn" :key="i">
      <rect
        v-if="c.kind !== 'outlet'"
        :x="c.x"
        :y="c.y"
        :width="Math.max(1.2, c.w)"
        :height="Math.max(1.2, c.h)"
        rx="0.8"
        :class="[c.kind, { full: c.full, faulty: c.faulty }]" />
      <ellipse v-else :cx="c.x + c.w / 2" :cy="c.y + c.h / 2" :rx="Math.min(c.w, c.h) / 2" :ry="Math.min(c.w, c.h) / 2" class="outlet" />
      <path
        v-if="c.kind === 'bay' && c.full"
        :d="`M${c.x + Math.min(3, c.w * 0.2)} ${c.y + c.h * 0.22}v${c.h * 0.56}`"
        class="light"
        :class="{ faulty: c.faulty }" />
    </template>
  </g>
  <FaceMotif v-else-if="!back" :kind="device.device_kind" :box="box" />
</template>

<style scoped>
.parts rect {
  fill: var(--boxdark);
  stroke: var(--boxline);
  stroke-width: 0.7;
}
.parts .cage {
  fill: var(--boxline);
}
.parts .bay:not(.full),
.parts .supply:not(.full) {
  fill: none;
  stroke: color-mix(in srgb, var(--pale) 62%, transparent);
  stroke-dasharray: 2 1.5;
}
.parts .faulty {
  stroke: var(--red);
  stroke-width: 1.4;
}
.light {
  stroke: var(--pale);
  stroke-width: 1.6;
}
.light.faulty {
  stroke: var(--red);
}
.outlet {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.3;
}
</style>

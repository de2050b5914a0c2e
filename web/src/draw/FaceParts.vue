<script setup lang="ts">
// What the spec says is on this face: ports in their rows, bays with and
// without drives, outlets, supplies. Without a spec, the sign of the kind.
import { computed } from 'vue'
import type { Device } from '../api/client'
import { useLab } from '../lab/useLab'
import FaceMotif from './FaceMotif.vue'
import { cellsOn, showsParts } from './faceParts'
import type { Box } from './scale'

const props = defineProps<{ device: Device; box: Box; scale: number; back?: boolean }>()
const { lab, partsIn } = useLab()

const parts = computed(() => partsIn.value.get(props.device.id) ?? [])
const inSeat = (kind: string, seat: number) => parts.value.find((p) => p.part_kind === kind && p.seat === seat)
/** All of one look in one path: a rack has thousands of them. */
const looks = computed(() => {
  const paths = new Map<string, string>()
  const add = (look: string, path: string) => paths.set(look, (paths.get(look) ?? '') + path)
  for (const c of cellsOn(props.device, props.box, props.scale, props.back ? 'rear' : 'front', lab.value?.spec_sheets)) {
    const part = c.kind === 'bay' ? inSeat('drive', c.seat) : c.kind === 'supply' ? inSeat('supply', c.seat) : undefined
    const state = part?.state === 'faulty' ? ' faulty' : ''
    if (c.kind === 'outlet') {
      const r = Math.min(c.w, c.h) / 2
      add('outlet', `M${c.x + c.w / 2 - r} ${c.y + c.h / 2}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`)
      continue
    }
    const [w, h] = [Math.max(1.2, c.w), Math.max(1.2, c.h)]
    add(c.kind + (part ? ' full' : '') + state, `M${c.x} ${c.y}h${w}v${h}h${-w}z`)
    if (c.kind === 'bay' && part) add('light' + state, `M${c.x + Math.min(3, c.w * 0.2)} ${c.y + c.h * 0.22}v${c.h * 0.56}`)
  }
  return [...paths]
})
</script>

<template>
  <g v-if="looks.length" class="parts" aria-hidden="true">
    <path v-for="[look, d] in looks" :key="look" :d="d" :class="look" />
  </g>
  <FaceMotif v-else-if="!back && showsParts(box)" :kind="device.device_kind" :box="box" />
</template>

<style scoped>
.parts path {
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
.parts .light {
  stroke: var(--pale);
  stroke-width: 1.6;
}
.parts .faulty {
  stroke: var(--red);
  stroke-width: 1.4;
}
.parts .outlet {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.3;
}
</style>

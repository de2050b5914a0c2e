<script setup lang="ts">
// The leads of a rack over its faces, in their jackets' colours: straight, or
// by the side they go through. The trail that is lit up stands out.
import { computed } from 'vue'
import type { Device, Face, Rack, Schemas } from '../api/client'
import { useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { useWork } from '../work/work'
import { bodyBox, cellsOf, partsBox, specOf } from './faceParts'
import type { Box } from './scale'

const props = defineProps<{ rack: Rack; faces: Face[]; scale: number; boxOf: (d: Device, face: Face) => Box | undefined }>()
const emit = defineEmits<{ down: [event: PointerEvent] }>()
const work = useWork()
const { lab } = useLab()
const { data } = useReport<Schemas['RackWiring']>(() => `/api/v1/racks/${props.rack.id}/wiring`)

interface Spot {
  x: number
  y: number
  face: Face
  box: Box
}
const other = (f: Face): Face => (f === 'front' ? 'rear' : 'front')

/** What a thing is on that takes units, itself where it does. */
function mounted(id: string): Device | undefined {
  let d = lab.value?.devices.get(id)
  for (let depth = 0; d?.at?.device_id && depth < 20; depth++) d = lab.value?.devices.get(d.at.device_id)
  return d?.at?.where === 'units' ? d : undefined
}

/** Where a port is on the drawing; the middle of the thing where its spec does not tell. */
function spotOf(e: Schemas['End']): Spot | undefined {
  const jack = data.value?.jacks[e.device_id]?.find((j) => j.port === e.port && !!j.rear === !!e.rear)
  const at = mounted(e.device_id)
  if (!jack || !at || !lab.value) return undefined
  const face = at.at?.face === 'rear' ? other(jack.face) : jack.face
  const box = props.boxOf(at, face)
  if (!box) return undefined
  const own = at.id === e.device_id ? bodyBox(at, box, props.scale) : box
  const area = partsBox(own)
  const cell = at.id === e.device_id ? cellsOf(specOf(at, lab.value.spec_sheets), jack.rear ? other(jack.face) : jack.face, { w: area.w / props.scale, h: area.h / props.scale }).find((c) => (c.group === jack.group && c.index === jack.index) || (jack.family === 'inlet' && c.kind === 'supply' && c.seat === jack.index + 1)) : undefined
  const shown = cell && !jack.rear
  return { x: shown ? area.x + (cell.x + cell.w / 2) * props.scale : own.x + own.w * 0.6, y: shown ? area.y + (cell.y + cell.h / 2) * props.scale : own.y + own.h / 2, face, box }
}

function route(a: Spot, b: Spot, way?: Schemas['Way']): string {
  if (way === 'left' || way === 'right') {
    const x = way === (a.face === 'rear' ? 'right' : 'left') ? a.box.x + 3 : a.box.x + a.box.w - 3
    return `M${a.x} ${a.y}H${x}V${b.y}H${b.x}`
  }
  const sag = Math.min(14, Math.abs(a.x - b.x) * 0.12 + 4)
  return `M${a.x} ${a.y}C${a.x + sag} ${a.y + (b.y - a.y) * 0.4} ${b.x + sag} ${a.y + (b.y - a.y) * 0.6} ${b.x} ${b.y}`
}

const lines = computed(() =>
  (data.value?.strips ?? []).flatMap((s) => {
    const [a, b] = [spotOf(s.a), spotOf(s.b)]
    if (!a || !b || a.face !== b.face || !props.faces.includes(a.face)) return []
    return [{ ...s, d: route(a, b, s.way) }]
  }),
)
</script>

<template>
  <g class="leads" aria-hidden="true">
    <g v-for="l in lines" :key="l.cable_id" :class="{ lit: l.trail === work.lit, dim: work.lit && l.trail !== work.lit }" :data-lead="l.cable_id" @pointerenter="work.lit = l.trail" @pointerleave="work.lit = ''" @pointerdown="emit('down', $event)">
      <path :d="l.d" class="edge" />
      <path :d="l.d" class="jacket" :stroke="l.hex ?? 'var(--soft)'" />
    </g>
  </g>
</template>

<style scoped>
.edge,
.jacket {
  fill: none;
  stroke-linejoin: round;
}
.edge {
  stroke: color-mix(in srgb, var(--frame) 80%, transparent);
  stroke-width: 3.2;
}
.jacket {
  stroke-width: 1.9;
}
.lit .edge {
  stroke: var(--red);
  stroke-width: 6;
}
.lit .jacket {
  stroke-width: 3;
}
.dim {
  opacity: 0.3;
}
</style>

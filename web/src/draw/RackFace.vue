<script setup lang="ts">
// One face of a rack to scale: posts, what is mounted, what stands on shelves,
// what is free, and what hangs at the sides, stands on top and lies under it.
import { computed } from 'vue'
import type { Device, Face, Rack, Schemas, Space } from '../api/client'
import type { LabState } from '../lab/useLab'
import { kindWords, title, unitRange } from '../lab/words'
import DeviceFace from './DeviceFace.vue'
import { faceMM, fitText, sizeMM, unitMM, unitsBox, type Box } from './scale'

const props = defineProps<{
  lab: LabState
  rack: Rack
  face: Face
  held: Map<string, Device[]>
  space?: Space
  scale: number
  x: number
  y: number
  /** Widths of the posts and of the frame above and below. */
  posts: { left: number; right: number; rail: number }
  picked: string
  /** What else is picked together with it. */
  also?: Set<string>
  /** What is being dragged. */
  lifted?: Device[]
  busy?: boolean
}>()
const emit = defineEmits<{ pick: [id: string]; lift: [device: Device, event: PointerEvent]; free: [range: string] }>()

type Share = Schemas['Share']

const isPicked = (d: Device) => d.id === props.picked || !!props.also?.has(d.id)
const isLifted = (d: Device) => !!props.lifted?.some((l) => l.id === d.id)

const inRack = computed(() => props.held.get(props.rack.id) ?? [])
const u = computed(() => unitMM * props.scale)
const w = computed(() => faceMM(props.rack) * props.scale)
const h = computed(() => props.rack.height_u * u.value)

const mounted = computed(() => inRack.value.filter((d) => d.at?.where === 'units' && d.at.face === props.face))
/** The other side's things that reach through: their backs are seen from here. */
const flat = new Set(['patch_panel', 'brush_panel', 'blanking_panel', 'shelf', 'drawer'])
const backs = computed(() =>
  inRack.value.filter((d) => {
    if (d.at?.where !== 'units' || d.at.face === props.face || flat.has(d.device_kind)) return false
    return !mounted.value.some((o) => (o.at?.unit ?? 0) < (d.at?.unit ?? 0) + (d.takes_u ?? 1) && (d.at?.unit ?? 0) < (o.at?.unit ?? 0) + (o.takes_u ?? 1))
  }),
)
const boxOf = (d: Device) => unitsBox(props.rack, props.scale, props.x, props.y, d.at?.unit ?? 1, d.takes_u ?? 1, mirrored(d))
/** A share of the width as it looks from the other face. */
const mirror: Partial<Record<Share, Share>> = { 'left half': 'right half', 'right half': 'left half', 'left third': 'right third', 'right third': 'left third' }
const mirrored = (d: Device) => (d.at?.face === props.face || !d.at?.share ? d.at?.share : (mirror[d.at.share] ?? d.at.share))

/** Things side by side on a board, to scale as long as they fit. */
function row(list: Device[], left: number, foot: number, width: number, most: number): { device: Device; box: Box }[] {
  const wide = list.map((d) => Math.max(sizeMM(d).w * props.scale, 34, title(d).length * 6.4 + 10))
  const fit = Math.min(1, (width - 6 * (list.length + 1)) / Math.max(1, wide.reduce((a, b) => a + b, 0)))
  let at = left + 6
  return list.map((device, i) => {
    const bw = (wide[i] ?? 34) * fit
    const bh = Math.min(most, Math.max(18, sizeMM(device).h * props.scale))
    const box = { x: at, y: foot - bh, w: bw, h: bh }
    at += bw + 6
    return { device, box }
  })
}
/** What a device stands up from the foot of its units: all of them for a shelf's board. */
const ownHeight = (d: Device, box: Box) => (d.device_kind === 'shelf' ? 7 : Math.min(box.h, (d.height_mm ?? Infinity) * props.scale))
const stacked = computed(() =>
  mounted.value
    .filter((d) => d.device_kind !== 'drawer')
    .flatMap((on) => {
      const box = boxOf(on)
      const room = on.device_kind === 'shelf' ? Math.max(3, box.h - 9) : u.value * 1.2
      return row(props.held.get(on.id) ?? [], box.x + 2, box.y + box.h - ownHeight(on, box), box.w - 4, room)
    }),
)
const onTop = computed(() => row(inRack.value.filter((d) => d.at?.where === 'top'), props.x, props.y - props.posts.rail - 1, w.value, u.value * 1.6))
const under = computed(() => row(inRack.value.filter((d) => d.at?.where === 'under'), props.x, props.y + h.value + props.posts.rail + 2 + u.value * 1.4, w.value, u.value * 1.4))
const sides = computed(() =>
  inRack.value
    .filter((d) => d.at?.where === 'left' || d.at?.where === 'right')
    .map((device, i) => {
      const left = (device.at?.where === 'left') === (props.face === 'front')
      const high = Math.min(h.value * 0.7, 260)
      return { device, x: left ? props.x - props.posts.left + 2.5 : props.x + w.value + 2.5, y: props.y + 20 + (i % 2) * 12, w: (left ? props.posts.left : props.posts.right) - 5, h: high }
    }),
)

const free = computed(() => (props.face === 'front' ? props.space?.front : props.space?.rear) ?? [])
const wholly = (unit: number, units: number) => props.space?.pieces.find((p) => p.unit <= unit && unit + units <= p.unit + p.units)
/** Free pieces of both faces, and what is free at this face only, apart. */
const pieces = computed(() => [
  ...(props.space?.pieces ?? []),
  ...free.value.filter((p) => (p.right - p.left < 1 || !(props.space?.pieces ?? []).some((b) => b.unit < p.unit + p.units && p.unit < b.unit + b.units)) && !wholly(p.unit, p.units) && props.face === 'front'),
])
const pieceBox = (p: { unit: number; units: number; left: number; right: number }): Box => {
  const box = unitsBox(props.rack, props.scale, props.x, props.y, p.unit, p.units)
  return { x: box.x + p.left * box.w, y: box.y, w: (p.right - p.left) * box.w, h: box.h }
}

const describe = (d: Device) => `${title(d)}, ${kindWords(d.device_kind)}${d.at?.where === 'units' ? `, ${unitRange(props.lab, props.rack, d.at.unit ?? 1, d.takes_u ?? 1)}` : ''}`
</script>

<template>
  <g>
    <rect :x="x - posts.left" :y="y - posts.rail" :width="w + posts.left + posts.right" :height="h + 2 * posts.rail" rx="3" class="frame" />
    <rect :x="x" :y="y" :width="w" :height="h" class="inside" />

    <g v-for="p in pieces" :key="`${p.unit}-${p.left}`" class="piece" :class="{ busy }" @click="emit('free', p.range)">
      <rect v-bind="{ x: pieceBox(p).x, y: pieceBox(p).y, width: pieceBox(p).w, height: pieceBox(p).h }" class="hatch" />
      <text :x="pieceBox(p).x + pieceBox(p).w / 2" :y="pieceBox(p).y + pieceBox(p).h / 2">
        {{ p.right - p.left < 1 ? 'free' : wholly(p.unit, p.units) ? `${p.units}U free` : `${p.units}U free here` }}
      </text>
    </g>

    <g v-for="d in backs" :key="`back ${d.id}`" class="reach" :class="{ lifted: isLifted(d) }" @click="emit('pick', d.id)">
      <DeviceFace :device="d" :box="boxOf(d)" :scale="scale" :picked="isPicked(d)" back />
    </g>
    <g v-for="d in mounted" :key="d.id" class="thing" :data-device="d.id" :class="{ lifted: isLifted(d) }" :aria-label="describe(d)" role="img" @pointerdown="emit('lift', d, $event)">
      <title>{{ describe(d) }}</title>
      <rect v-bind="{ x: boxOf(d).x, y: boxOf(d).y, width: boxOf(d).w, height: boxOf(d).h }" class="grip" />
      <DeviceFace :device="d" :box="boxOf(d)" :scale="scale" :picked="isPicked(d)" />
    </g>
    <g v-for="s in [...stacked, ...onTop, ...under]" :key="s.device.id" class="thing" :data-device="s.device.id" :class="{ lifted: isLifted(s.device) }" :aria-label="describe(s.device)" role="img" @pointerdown="emit('lift', s.device, $event)">
      <title>{{ describe(s.device) }}</title>
      <DeviceFace :device="s.device" :box="s.box" :scale="scale" :picked="isPicked(s.device)" small />
    </g>
    <g v-for="s in sides" :key="s.device.id" class="thing side" :data-device="s.device.id" :aria-label="describe(s.device)" role="img" @pointerdown="emit('lift', s.device, $event)">
      <title>{{ describe(s.device) }}</title>
      <rect :x="s.x" :y="s.y" :width="s.w" :height="s.h" rx="2" :class="{ chosen: isPicked(s.device) }" />
      <text :transform="`translate(${s.x + s.w / 2} ${s.y + s.h / 2}) rotate(-90)`">{{ fitText(title(s.device), s.h - 10) }}</text>
    </g>
  </g>
</template>

<style scoped>
.frame {
  fill: var(--frame);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.inside {
  fill: var(--sheet);
  stroke: var(--rule);
}
.hatch {
  fill: url(#hatch);
  stroke: var(--rule);
  stroke-dasharray: 3 3;
}
.piece {
  cursor: pointer;
}
.piece:hover:not(.busy) .hatch {
  stroke: var(--red);
}
.piece text {
  font: 500 13px var(--names);
  fill: var(--soft);
  text-anchor: middle;
  dominant-baseline: central;
}
.thing {
  cursor: grab;
  touch-action: none;
}
.grip {
  fill: transparent;
}
.reach {
  cursor: pointer;
}
.reach :deep(.body),
.reach :deep(.ear) {
  fill: var(--frame);
  stroke: var(--rule);
}
.reach :deep(.name) {
  fill: var(--soft);
}
.lifted {
  opacity: 0.3;
}
.side rect {
  fill: var(--boxdark);
  stroke: var(--boxedge);
}
.side rect.chosen {
  stroke: var(--red);
  stroke-width: 2;
}
.side text {
  font: 600 12px var(--names);
  fill: var(--boxink);
  text-anchor: middle;
  dominant-baseline: central;
}
</style>

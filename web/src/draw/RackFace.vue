<script setup lang="ts">
// One face of a rack to scale: posts, what is mounted, what stands on shelves,
// what is free, and what hangs at the sides, stands on top and lies under it.
import { computed } from 'vue'
import type { Device, Face, Rack, Space } from '../api/client'
import type { LabState } from '../lab/useLab'
import { whatIs, title, unitRange } from '../lab/words'
import DeviceFace from './DeviceFace.vue'
import { layoutOf } from './layout'
import { faceMM, fitText, unitMM, unitsBox, type Box } from './scale'

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

const isPicked = (d: Device) => d.id === props.picked || !!props.also?.has(d.id)
const isLifted = (d: Device) => !!props.lifted?.some((l) => l.id === d.id)

const w = computed(() => faceMM(props.rack) * props.scale)
const h = computed(() => props.rack.height_u * unitMM * props.scale)
const on = computed(() => layoutOf(props))

const free = computed(() => (props.face === 'front' ? props.space?.front : props.space?.rear) ?? [])
const wholly = (unit: number, units: number) => props.space?.pieces.find((p) => p.unit <= unit && unit + units <= p.unit + p.units)
/** Free pieces of both faces, and what is free at this face only, apart. */
const pieces = computed(() => [
  ...(props.space?.pieces ?? []),
  ...free.value.filter(
    (p) =>
      (p.right - p.left < 1 || !(props.space?.pieces ?? []).some((b) => b.unit < p.unit + p.units && p.unit < b.unit + b.units)) &&
      !wholly(p.unit, p.units) &&
      props.face === 'front',
  ),
])
const pieceBox = (p: { unit: number; units: number; left: number; right: number }): Box => {
  const box = unitsBox(props.rack, props.scale, props.x, props.y, p.unit, p.units)
  return { x: box.x + p.left * box.w, y: box.y, w: (p.right - p.left) * box.w, h: box.h }
}

/** Where the back of a thing is named there is no room for more words. */
const crowded = (p: { unit: number; units: number }) =>
  w.value < 260 &&
  on.value.backs.some(({ device: d }) => (d.at?.unit ?? 0) < p.unit + p.units && p.unit < (d.at?.unit ?? 0) + (d.takes_u ?? 1))

function describe(d: Device): string {
  const units = d.at?.where === 'units' ? unitRange(props.lab, props.rack, d.at.unit ?? 1, d.takes_u ?? 1) : ''
  return [title(d), whatIs(d), units].filter(Boolean).join(', ')
}
</script>

<template>
  <g>
    <rect :x="x - posts.left" :y="y - posts.rail" :width="w + posts.left + posts.right" :height="h + 2 * posts.rail" rx="3" class="frame" />
    <rect :x="x" :y="y" :width="w" :height="h" class="inside" />

    <g v-for="p in pieces" :key="`${p.unit}-${p.left}`" class="piece" :class="{ busy }" @click="emit('free', p.range)">
      <rect v-bind="{ x: pieceBox(p).x, y: pieceBox(p).y, width: pieceBox(p).w, height: pieceBox(p).h }" class="hatch" />
      <text v-if="pieceBox(p).h >= 13 && !crowded(p)" :x="pieceBox(p).x + pieceBox(p).w / 2" :y="pieceBox(p).y + pieceBox(p).h / 2">
        {{ p.right - p.left < 1 ? 'free' : wholly(p.unit, p.units) ? `${p.units}U free` : `${p.units}U free here` }}
      </text>
    </g>

    <g
      v-for="{ device: d, box } in on.backs"
      :key="`back ${d.id}`"
      class="reach"
      :class="{ lifted: isLifted(d) }"
      @click="emit('pick', d.id)">
      <DeviceFace :device="d" :box="box" :scale="scale" :picked="isPicked(d)" back />
    </g>
    <g
      v-for="{ device: d, box } in on.mounted"
      :key="d.id"
      class="thing"
      :data-device="d.id"
      :class="{ lifted: isLifted(d) }"
      :aria-label="describe(d)"
      role="img"
      @pointerdown="emit('lift', d, $event)">
      <title>{{ describe(d) }}</title>
      <rect :x="box.x" :y="box.y" :width="box.w" :height="box.h" class="grip" />
      <DeviceFace :device="d" :box="box" :scale="scale" :picked="isPicked(d)" />
    </g>
    <g
      v-for="{ device: d, box, short } in on.small"
      :key="d.id"
      class="thing"
      :data-device="d.id"
      :class="{ lifted: isLifted(d) }"
      :aria-label="describe(d)"
      role="img"
      @pointerdown="emit('lift', d, $event)">
      <title>{{ describe(d) }}</title>
      <DeviceFace :device="d" :box="box" :scale="scale" :short="short" :picked="isPicked(d)" small />
    </g>
    <g
      v-for="{ device: d, box } in on.sides"
      :key="d.id"
      class="thing side"
      :data-device="d.id"
      :aria-label="describe(d)"
      role="img"
      @pointerdown="emit('lift', d, $event)">
      <title>{{ describe(d) }}</title>
      <rect :x="box.x" :y="box.y" :width="box.w" :height="box.h" rx="2" :class="{ chosen: isPicked(d) }" />
      <text :transform="`translate(${box.x + box.w / 2} ${box.y + box.h / 2}) rotate(-90)`">{{ fitText(title(d), box.h - 10) }}</text>
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
@media (max-width: 700px) {
  .thing {
    touch-action: auto; /* a finger scrolls */
  }
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

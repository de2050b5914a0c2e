<script setup lang="ts">
// The picked rack, front and rear to one scale with the graduated scale
// between, and what is on its way: ghosts of a typed line, a thing being
// dragged over the units that it would take.
import { computed, ref } from 'vue'
import type { Device, Face, Rack, Space } from '../../api/client'
import type { LabState } from '../../lab/useLab'
import { unitNumber, title } from '../../lab/words'
import { faceMM, unitMM, unitsBox } from '../../draw/scale'
import GraduatedScale from '../../draw/GraduatedScale.vue'
import RackFace from '../../draw/RackFace.vue'
import type { Drag, Showing } from '../../work/work'

const props = defineProps<{
  lab: LabState
  rack: Rack
  held: Map<string, Device[]>
  space?: Space
  width: number
  height: number
  showing: Showing
  picked: string
  ghosts: Device[]
  drag?: Drag
}>()
const emit = defineEmits<{ pick: [id: string]; lift: [device: Device, event: PointerEvent]; free: [range: string] }>()

const svg = ref<SVGSVGElement>()
const faces = computed<Face[]>(() => (props.showing === 'both' ? ['front', 'rear'] : [props.showing]))
const inRack = computed(() => props.held.get(props.rack.id) ?? [])
const has = (where: string) => inRack.value.some((d) => d.at?.where === where)
/** Posts are wide where something hangs in them; the rear sees left and right swapped. */
const rail = 10
const postsOf = (face: Face) => {
  const [left, right] = face === 'front' ? ['left', 'right'] : ['right', 'left']
  return { left: has(left ?? '') ? 22 : rail, right: has(right ?? '') ? 22 : rail, rail }
}
const middle = 66
const scale = computed(() => {
  const n = faces.value.length
  const across = (props.width - middle - n * postSum.value - 6) / (n * faceMM(props.rack))
  const extra = 32 + 2 * rail
  const units = props.rack.height_u + (has('top') ? 1.7 : 0) + (has('under') ? 1.5 : 0)
  // A tall rack is scrolled rather than drawn too small to read.
  const down = Math.max(0.34, (props.height - extra) / (units * unitMM))
  return Math.max(0.16, Math.min(across, down, 0.95))
})
const postSum = computed(() => postsOf('front').left + postsOf('front').right)
const u = computed(() => unitMM * scale.value)
const faceW = computed(() => faceMM(props.rack) * scale.value)
const top = computed(() => 24 + rail + (has('top') ? 1.7 * u.value : 0))
const left = (i: number) => 2 + postsOf(faces.value[i] ?? 'front').left + i * (faceW.value + postSum.value + middle)
const scaleX = computed(() => left(0) + faceW.value + postsOf(faces.value[0] ?? 'front').right + 12)
const full = computed(() => ({
  w: faces.value.length * (faceW.value + postSum.value) + middle + 4,
  h: top.value + props.rack.height_u * u.value + rail + 4 + (has('under') ? 1.5 * u.value : 0),
}))
const numbers = computed(() => Array.from({ length: props.rack.height_u }, (_, i) => unitNumber(props.lab, props.rack, props.rack.height_u - i)))

const boxFor = (d: Device, at: { unit: number; face: Face }) =>
  unitsBox(props.rack, scale.value, left(faces.value.indexOf(at.face)), top.value, at.unit, d.takes_u ?? 1, d.at?.where === 'units' ? d.at.share : 'whole')

const ghostBoxes = computed(() =>
  props.ghosts.flatMap((d) => {
    const { unit, face, where, rack_id } = d.at ?? {}
    if (where !== 'units' || rack_id !== props.rack.id || !unit || !face || !faces.value.includes(face)) return []
    return [{ device: d, box: boxFor(d, { unit, face }) }]
  }),
)

const target = computed(() => {
  const over = props.drag?.over
  if (!props.drag || !over || !('unit' in over) || !faces.value.includes(over.face)) return undefined
  const slot = props.drag.slots.find((s) => s.unit === over.unit && s.face === over.face)
  return slot && { slot, box: boxFor(props.drag.device, over), name: title(props.drag.device) }
})

/** The lowest unit and the face that a device takes when its middle is at a point of the screen. */
function unitAt(clientX: number, clientY: number, device: Device): { unit: number; face: Face } | undefined {
  const bounds = svg.value?.getBoundingClientRect()
  if (!bounds) return undefined
  const x = ((clientX - bounds.left) * full.value.w) / bounds.width
  const y = ((clientY - bounds.top) * full.value.h) / bounds.height
  const i = faces.value.findIndex((_, n) => x >= left(n) && x <= left(n) + faceW.value)
  const face = faces.value[i]
  const takes = device.takes_u ?? 1
  const fromFoot = props.rack.height_u - (y - top.value) / u.value
  if (!face || fromFoot < 0 || fromFoot > props.rack.height_u) return undefined
  return { face, unit: Math.min(props.rack.height_u - takes + 1, Math.max(1, Math.round(fromFoot - takes / 2) + 1)) }
}
defineExpose({ unitAt })
</script>

<template>
  <svg ref="svg" :width="full.w" :height="full.h" :viewBox="`0 0 ${full.w} ${full.h}`" class="drawing" :aria-label="`${rack.name}, elevation`" role="group">
    <defs>
      <pattern id="hatch" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="9" height="9" class="paper" />
        <path d="M0 0v9" class="line" />
      </pattern>
    </defs>
    <text v-for="(face, i) in faces" :key="face" :x="left(i) - postsOf(face).left + 1" y="14" class="head">{{ face === 'front' ? 'Front' : 'Rear' }}</text>
    <RackFace v-for="(face, i) in faces" :key="face" :lab="lab" :rack="rack" :face="face" :held="held" :space="space" :scale="scale" :x="left(i)" :y="top" :posts="postsOf(face)" :picked="picked" :lifted="drag?.device.id" :busy="!!drag" @pick="emit('pick', $event)" @lift="(d, e) => emit('lift', d, e)" @free="emit('free', $event)" />
    <GraduatedScale :units="rack.height_u" :unit="u" :x="scaleX" :y="top" :width="22" :numbers="numbers" />
    <g v-for="g in ghostBoxes" :key="g.device.id" class="ghost" data-ghost>
      <rect :x="g.box.x + 1" :y="g.box.y + 1" :width="g.box.w - 2" :height="g.box.h - 2" rx="2" />
      <text :x="g.box.x + 14" :y="g.box.y + g.box.h / 2">{{ title(g.device) }}</text>
    </g>
    <g v-if="target" class="target" :class="{ no: !target.slot.fits }" data-target :data-fits="target.slot.fits">
      <rect :x="target.box.x" :y="target.box.y" :width="target.box.w" :height="target.box.h" rx="2" />
      <text :x="target.box.x + 14" :y="target.box.y + target.box.h / 2">{{ target.slot.fits ? `${target.name} fits` : target.slot.why }}</text>
    </g>
  </svg>
</template>

<style scoped>
.drawing {
  display: block;
  user-select: none;
}
.paper {
  fill: var(--sheet);
}
.line {
  stroke: var(--rule);
  stroke-width: 1.4;
}
.head {
  font: 600 14px var(--names);
  fill: var(--ink);
}
.ghost rect,
.target rect {
  fill: color-mix(in srgb, var(--sheet) 88%, var(--red));
  stroke: var(--red);
  stroke-width: 1.5;
  stroke-dasharray: 5 3;
}
.target rect {
  fill: color-mix(in srgb, var(--sheet) 82%, var(--moss));
  stroke: var(--moss);
}
.target.no rect {
  fill: color-mix(in srgb, var(--sheet) 82%, var(--red));
  stroke: var(--red);
}
.ghost text,
.target text {
  font: 600 13px var(--names);
  fill: var(--ink);
  dominant-baseline: central;
}
.target {
  pointer-events: none;
}
</style>

<script setup lang="ts">
// One rack, its faces to one scale with the graduated scale between or beside
// them, and what is on its way: ghosts of a typed line, what a draft brings,
// takes away and moves, a thing being dragged over the units it would take.
import { computed, ref } from 'vue'
import type { Device, Face, Rack, Space } from '../../api/client'
import type { LabState } from '../../lab/useLab'
import { unitNumber } from '../../lab/words'
import { faceMM, shareAt, unitMM, unitsBox } from '../../draw/scale'
import GraduatedScale from '../../draw/GraduatedScale.vue'
import { layoutOf, type FaceLayout } from '../../draw/layout'
import type { Marks } from '../../draw/marks'
import FaceNames from '../../draw/FaceNames.vue'
import LeadLines from '../../draw/LeadLines.vue'
import RackFace from '../../draw/RackFace.vue'
import { useWork, type Drag, type OverUnits } from '../../work/work'
import DragMarks from './DragMarks.vue'
import DraftMarks from './DraftMarks.vue'
import { useDropTarget } from './useDrag'
import { useResize } from './useResize'

const props = defineProps<{
  lab: LabState
  rack: Rack
  held: Map<string, Device[]>
  space?: Space
  width: number
  height: number
  showing: 'both' | Face
  picked: string
  also: string[]
  ghosts: Device[]
  marks?: Marks
  drag?: Drag
  /** Pixels to a millimetre, where it is not for the drawing to choose. */
  fixed?: number
  /** Without the graduated scale, beside a drawing that has it. */
  bare?: boolean
  /** As large as its ports ask for, scrolled where it has to be. */
  near?: boolean
  /** With the leads that are plugged in. */
  leads?: boolean
}>()
const emit = defineEmits<{ pick: [id: string]; lift: [device: Device, event: PointerEvent]; free: [range: string] }>()

const work = useWork()
const svg = ref<SVGSVGElement>()
const faces = computed<Face[]>(() => (props.showing === 'both' ? ['front', 'rear'] : props.showing === 'rear' ? ['rear'] : ['front']))
const inRack = computed(() => props.held.get(props.rack.id) ?? [])
const has = (where: string) => inRack.value.some((d) => d.at?.where === where)
/** Posts are wide where something hangs in them; the rear sees left and right swapped. */
const rail = 10
const postsOf = (face: Face) => {
  const [left, right] = face === 'front' ? ['left', 'right'] : ['right', 'left']
  return { left: has(left ?? '') ? 22 : rail, right: has(right ?? '') ? 22 : rail, rail }
}
const middle = props.bare ? 0 : 66
const scale = computed(() => {
  if (props.fixed) return props.fixed
  const n = faces.value.length
  const across = (props.width - middle - n * postSum.value - 6) / (n * faceMM(props.rack))
  const extra = 32 + 2 * rail
  const units = props.rack.height_u + (has('top') ? 1.7 : 0) + (has('under') ? 1.5 : 0)
  // A tall rack is scrolled rather than drawn too small to read.
  const down = Math.max(props.near ? 0.75 : 0.45, (props.height - extra) / (units * unitMM))
  return Math.max(0.16, Math.min(across, down, 0.95))
})
const postSum = computed(() => postsOf('front').left + postsOf('front').right)
const u = computed(() => unitMM * scale.value)
const faceW = computed(() => faceMM(props.rack) * scale.value)
const top = computed(() => 24 + rail + (has('top') ? 1.7 * u.value : 0))
const left = (i: number) => 2 + postsOf(faces.value[i] ?? 'front').left + i * (faceW.value + postSum.value + middle)
const scaleX = computed(() => left(0) + faceW.value + postsOf(faces.value[0] ?? 'front').right + 12)
const layouts = computed<[Face, FaceLayout][]>(() =>
  faces.value.map((face, i) => [
    face,
    layoutOf({ rack: props.rack, face, held: props.held, scale: scale.value, x: left(i), y: top.value, posts: postsOf(face) }),
  ]),
)
const full = computed(() => ({
  w: faces.value.length * (faceW.value + postSum.value) + middle + 4,
  h: top.value + props.rack.height_u * u.value + rail + 4 + (has('under') ? 1.5 * u.value : 0),
}))
const numbers = computed(() =>
  Array.from({ length: props.rack.height_u }, (_, i) => unitNumber(props.lab, props.rack, props.rack.height_u - i)),
)

/** Where units of a face are drawn; nothing if that face is not. */
function boxAt(face: Face | undefined, unit: number, takes: number, share?: OverUnits['share']) {
  const i = faces.value.indexOf(face ?? 'front')
  return i < 0 ? undefined : unitsBox(props.rack, scale.value, left(i), top.value, unit, takes, share)
}
const boxOf = (d: Device) =>
  d.at?.where === 'units' && d.at.rack_id === props.rack.id ? boxAt(d.at.face, d.at.unit ?? 1, d.takes_u ?? 1, d.at.share) : undefined

/** Where a thing is, seen through the rack where its own face is not drawn. */
const boxSeen = (d: Device) =>
  boxOf(d) ??
  (d.at?.where === 'units' && d.at.rack_id === props.rack.id ? boxAt(faces.value[0], d.at.unit ?? 1, d.takes_u ?? 1) : undefined)

const { resizing, pull } = useResize(
  () => u.value,
  () => props.rack.height_u,
)
const picked = computed(() => {
  const d = props.lab.devices.get(props.picked)
  const box = d && !props.drag && props.lab.view.kind !== 'past' && boxOf(d)
  return box ? { device: d, box } : undefined
})

/** The units, face and share that a thing takes when its middle is at a point of the screen. */
function unitsAt(clientX: number, clientY: number, drag: Drag): OverUnits | undefined {
  const bounds = svg.value?.getBoundingClientRect()
  if (!bounds) return undefined
  const x = ((clientX - bounds.left) * full.value.w) / bounds.width
  const y = ((clientY - bounds.top) * full.value.h) / bounds.height
  const i = faces.value.findIndex((_, n) => x >= left(n) && x <= left(n) + faceW.value)
  const face = faces.value[i]
  const takes = drag.device.takes_u ?? 1
  const fromFoot = props.rack.height_u - (y - top.value) / u.value
  if (!face || fromFoot < 0 || fromFoot > props.rack.height_u) return undefined
  return {
    rack: props.rack.id,
    face,
    share: shareAt(drag.part, (x - left(i)) / faceW.value),
    unit: Math.min(props.rack.height_u - takes + 1, Math.max(1, Math.round(fromFoot - takes / 2) + 1)),
  }
}
useDropTarget(unitsAt)
/** A lead lies over things: what is below it is what is meant to be lifted. */
function throughLead(event: PointerEvent) {
  const below = document.elementsFromPoint(event.clientX, event.clientY).find((e) => e.closest('[data-device]'))
  const d = props.lab.devices.get(below?.closest<HTMLElement>('[data-device]')?.dataset['device'] ?? '')
  if (d) emit('lift', d, event)
}
const alsoSet = computed(() => new Set(props.also))
</script>

<template>
  <svg
    ref="svg"
    :width="full.w"
    :height="full.h"
    :viewBox="`0 0 ${full.w} ${full.h}`"
    class="drawing"
    :aria-label="`${rack.name}, elevation`"
    role="group"
    :data-drawing="rack.id">
    <defs>
      <pattern id="hatch" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="9" height="9" class="paper" />
        <path d="M0 0v9" class="line" />
      </pattern>
    </defs>
    <text v-for="(face, i) in faces" :key="face" :x="left(i) - postsOf(face).left + 1" y="14" class="head">
      {{ fixed ? rack.name : face === 'front' ? 'Front' : 'Rear' }}
    </text>
    <RackFace
      v-for="(face, i) in faces"
      :key="face"
      :lab="lab"
      :rack="rack"
      :face="face"
      :held="held"
      :space="space"
      :scale="scale"
      :x="left(i)"
      :y="top"
      :posts="postsOf(face)"
      :picked="picked ? picked.device.id : props.picked"
      :also="alsoSet"
      :lifted="drag?.with"
      :busy="!!drag"
      @pick="emit('pick', $event)"
      @lift="(d, e) => emit('lift', d, e)"
      @free="emit('free', $event)" />
    <LeadLines v-if="leads && !drag" :rack="rack" :layouts="layouts" :scale="scale" @down="throughLead" />
    <FaceNames v-if="leads && !drag && work.lens === 'plain'" :layouts="layouts" :scale="scale" />
    <GraduatedScale v-if="!bare" :units="rack.height_u" :unit="u" :x="scaleX" :y="top" :width="22" :numbers="numbers" />
    <DraftMarks v-if="marks || ghosts.length" :lab="lab" :held="held" :marks="marks" :ghosts="ghosts" :box-of="boxSeen" />
    <DragMarks v-if="drag" :drag="drag" :lab="lab" :rack="rack" :faces="faces" :box-at="boxAt" />
    <g v-if="picked && !resizing && !work.port" class="handles" aria-hidden="true">
      <rect
        v-for="edge in ['top', 'foot'] as const"
        :key="edge"
        :x="picked.box.x + picked.box.w / 2 - 15"
        :y="edge === 'top' ? picked.box.y - 5 : picked.box.y + picked.box.h - 2"
        width="30"
        height="7"
        rx="3"
        :data-pull="edge"
        @pointerdown.stop.prevent="pull(picked.device, edge, $event)">
        <title>Drag to take more or fewer units</title>
      </rect>
    </g>
    <g v-if="resizing" class="resizing" data-resizing>
      <rect
        v-bind="boxAt(resizing.device.at?.face, resizing.unit, resizing.takes, resizing.device.at?.share)"
        :width="boxAt(resizing.device.at?.face, resizing.unit, resizing.takes, resizing.device.at?.share)?.w"
        :height="resizing.takes * u"
        rx="2" />
      <text
        :x="(boxAt(resizing.device.at?.face, resizing.unit, resizing.takes)?.x ?? 0) + 14"
        :y="(boxAt(resizing.device.at?.face, resizing.unit, resizing.takes)?.y ?? 0) + (resizing.takes * u) / 2">
        takes {{ resizing.takes }}U
      </text>
    </g>
  </svg>
</template>

<style scoped>
.drawing {
  display: block;
  flex: none;
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
.handles rect {
  fill: var(--sheet);
  stroke: var(--red);
  stroke-width: 1.5;
  cursor: ns-resize;
  touch-action: none;
}
.resizing {
  pointer-events: none;
}
.resizing rect {
  fill: color-mix(in srgb, var(--sheet) 70%, transparent);
  stroke: var(--red);
  stroke-width: 1.5;
}
.resizing text {
  font: 600 13px var(--names);
  fill: var(--ink);
  dominant-baseline: central;
}
</style>

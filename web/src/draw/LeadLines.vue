<script setup lang="ts">
// The ports and leads of a rack over its faces, leads in their jackets'
// colours: straight, or by the side they go through. A port is picked, and a
// cable led to it, where it is seen; the trail that is lit up stands out.
import { computed } from 'vue'
import { api } from '../api/address'
import type { Device, Face, Rack, Schemas } from '../api/client'
import { useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { title } from '../lab/words'
import { jackWords, keyOfJack, sameEnd, useCabling, usePartners, type Jack } from '../work/useCabling'
import { useWork } from '../work/work'
import { bodyBox, cellsOn } from './faceParts'
import type { FaceLayout } from './layout'
import type { Box } from './scale'

const props = defineProps<{ rack: Rack; layouts: [Face, FaceLayout][]; scale: number }>()
const emit = defineEmits<{ down: [event: PointerEvent] }>()
const work = useWork()
const { lab } = useLab()
const { pickJack } = useCabling()
const { data } = useReport(() => api('/api/v1/racks/{id}/wiring', { id: props.rack.id }))
const partners = usePartners(() => Object.keys(data.value?.jacks ?? {}))

interface Spot {
  x: number
  y: number
  face: Face
  /** What the lead goes round, on its way through a side. */
  box: Box
}
interface Hole extends Box {
  device: Device
  jack: Jack
}
/** What a thing is on that takes units, itself where it does. */
function mounted(id: string): Device | undefined {
  let d = lab.value?.devices.get(id)
  for (let depth = 0; d?.at?.device_id && depth < 20; depth++) d = lab.value?.devices.get(d.at.device_id)
  return d?.at?.where === 'units' ? d : undefined
}

/** A thing's body on a face of the rack, with its own face that is seen there; plain where its ports are not drawn. */
interface Seen {
  body: Box
  box: Box
  own: Face
  plain: boolean
}
function seenOn(face: Face, on: FaceLayout, device: Device): Seen | undefined {
  const holder = mounted(device.id)
  const own: Face = holder ? (holder.at?.face === face ? 'front' : 'rear') : face
  const whole = [...on.mounted, ...on.backs].find((p) => p.device.id === device.id)
  if (whole) {
    const body = bodyBox(device, whole.box, props.scale)
    return { body, box: whole.box, own, plain: false }
  }
  const box = on.small.find((p) => p.device.id === device.id)?.box ?? (holder && on.unitsOf(holder))
  return box && { body: box, box, own, plain: true }
}

/** Every port that is drawn, where it is drawn; and where leads meet a thing whose ports are not. */
const drawn = computed(() => {
  const holes: Hole[] = []
  const spots = new Map<string, Spot>()
  for (const [id, jacks] of Object.entries(data.value?.jacks ?? {})) {
    const device = lab.value?.devices.get(id)
    if (!device || !lab.value) continue
    for (const [face, on] of props.layouts) {
      const seen = seenOn(face, on, device)
      if (!seen) continue
      const { body, box } = seen
      const cells = seen.plain ? [] : cellsOn(device, body, props.scale, seen.own, lab.value.spec_sheets)
      for (const jack of jacks) {
        if (jack.face !== seen.own) continue
        const cell = jack.rear
          ? undefined
          : cells.find(
              (c) =>
                (c.group === jack.group && c.index === jack.index) ||
                (jack.family === 'inlet' && c.kind === 'supply' && c.seat === jack.index + 1),
            )
        if (cell) holes.push({ x: cell.x, y: cell.y, w: cell.w, h: cell.h, device, jack })
        spots.set(keyOfJack(id, jack), {
          x: cell ? cell.x + cell.w / 2 : body.x + body.w * 0.6,
          y: cell ? cell.y + cell.h / 2 : body.y + body.h / 2,
          face,
          box,
        })
      }
    }
  }
  return { holes, spots }
})

/** A power lead hangs down a side, clear of the other faces: the right one, unless both ends are far to the left, where names are. */
function hung(a: Spot, b: Spot): string {
  const [left, right] = [Math.min(a.box.x, b.box.x), Math.max(a.box.x + a.box.w, b.box.x + b.box.w)]
  const third = left + (right - left) / 3
  const x = a.x < third && b.x < third ? left + 3 : right - 3
  return `M${a.x} ${a.y}H${x}V${b.y}H${b.x}`
}

function route(a: Spot, b: Spot, way?: Schemas['Way']): string {
  if (way === 'left' || way === 'right') {
    const x =
      way === (a.face === 'rear' ? 'right' : 'left') ? Math.min(a.box.x, b.box.x) + 3 : Math.max(a.box.x + a.box.w, b.box.x + b.box.w) - 3
    return `M${a.x} ${a.y}H${x}V${b.y}H${b.x}`
  }
  const sag = Math.min(14, Math.abs(a.x - b.x) * 0.12 + 4)
  return `M${a.x} ${a.y}C${a.x + sag} ${a.y + (b.y - a.y) * 0.4} ${b.x + sag} ${a.y + (b.y - a.y) * 0.6} ${b.x} ${b.y}`
}

const outlets = computed(
  () =>
    new Set(
      Object.entries(data.value?.jacks ?? {}).flatMap(([id, jacks]) =>
        jacks.filter((j) => j.family === 'outlet').map((j) => keyOfJack(id, j)),
      ),
    ),
)
const lines = computed(() =>
  (data.value?.strips ?? []).flatMap((s) => {
    const [a, b] = [drawn.value.spots.get(keyOfJack(s.a.device_id, s.a)), drawn.value.spots.get(keyOfJack(s.b.device_id, s.b))]
    if (!a || !b || a.face !== b.face) return []
    const power = outlets.value.has(keyOfJack(s.a.device_id, s.a)) || outlets.value.has(keyOfJack(s.b.device_id, s.b))
    return [{ ...s, d: power && s.way !== 'left' && s.way !== 'right' ? hung(a, b) : route(a, b, s.way) }]
  }),
)
/** Leads are in the background unless they are what one looks at. */
const quiet = (l: Schemas['Strip']) =>
  !work.lit && !work.leading && ![l.a.device_id, l.b.device_id].some((id) => id === work.deviceId || work.also.includes(id))
const partner = (h: Hole) => (work.leading ? partners.value?.get(keyOfJack(h.device.id, h.jack)) : undefined)
/** A thing is picked before its ports are: pressed on a port, one that is not is only picked itself. */
let within = false
function press(h: Hole, event: PointerEvent) {
  within = work.leading || !!work.port || work.deviceId === h.device.id
  emit('down', event)
}
function pick(h: Hole, event: MouseEvent) {
  if (within && !event.shiftKey && !event.ctrlKey && !event.metaKey) void pickJack(h.device.id, h.jack, partner(h))
}
const isPicked = (h: Hole) => sameEnd(work.port, { device_id: h.device.id, port: h.jack.port, rear: h.jack.rear })
</script>

<template>
  <g class="leads" aria-hidden="true">
    <g
      v-for="l in lines"
      :key="l.cable_id"
      :class="{ lit: l.trail === work.lit, dim: work.lit && l.trail !== work.lit, quiet: quiet(l) }"
      :data-lead="l.cable_id"
      @pointerenter="work.lit = l.trail"
      @pointerleave="work.lit = ''"
      @pointerdown="emit('down', $event)">
      <path :d="l.d" class="edge" />
      <path :d="l.d" class="jacket" :stroke="l.hex ?? 'var(--soft)'" />
    </g>
    <rect
      v-for="h in drawn.holes"
      :key="keyOfJack(h.device.id, h.jack)"
      class="hole"
      :x="h.x"
      :y="h.y"
      :width="Math.max(1.5, h.w)"
      :height="Math.max(1.5, h.h)"
      :class="{
        picked: isPicked(h),
        lit: h.jack.trail && h.jack.trail === work.lit,
        broken: h.jack.broken,
        may: work.leading && partner(h) && !partner(h)?.why,
      }"
      :data-port="`${title(h.device)}/${h.jack.port}`"
      @pointerenter="work.lit = h.jack.trail ?? ''"
      @pointerleave="work.lit = ''"
      @pointerdown="press(h, $event)"
      @click="pick(h, $event)">
      <title>{{ jackWords(h.device, h.jack, partner(h)) }}</title>
    </rect>
  </g>
</template>

<style scoped>
.edge,
.jacket {
  fill: none;
  stroke-linejoin: round;
}
.edge {
  stroke: color-mix(in srgb, var(--ink) 45%, var(--frame));
  stroke-width: 2.9;
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
.quiet {
  opacity: 0.55;
}
.quiet:hover {
  opacity: 1;
}
.hole {
  fill: transparent;
  stroke: transparent;
  /* Ports are small at this scale: their frame is hit as well. */
  stroke-width: 3;
  pointer-events: all;
  cursor: pointer;
}
@media (max-width: 700px) {
  .hole {
    pointer-events: none; /* smaller than a finger: what is touched is the thing it is on */
  }
}
.hole:hover,
.hole.lit {
  stroke: var(--paper);
  stroke-width: 1.5;
}
.hole.broken {
  stroke: var(--red);
  stroke-width: 1;
}
.hole.may {
  fill: var(--water);
  stroke: var(--paper);
  stroke-width: 1;
}
.hole.picked {
  stroke: var(--red);
  stroke-width: 2.5;
}
</style>
